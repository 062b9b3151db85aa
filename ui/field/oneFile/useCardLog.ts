import { useCallback, useState } from 'react'
import { storedEntries, type FieldEntry, type FieldEvent } from '@/core/field'
import { entryAfter } from '../newEntry'

/** The log of a card file, in the browser's own storage where a file may use it; `kept` says whether it may. */
export function useCardLog(card: string) {
  const key = `nitidus-card ${card}`
  const [{ log, kept }, set] = useState(() => read(key))
  const append = useCallback(
    (event: FieldEvent) =>
      set(({ log: before }) => {
        const next = [...before, entryAfter(before, event)]
        return { log: next, kept: write(key, next) }
      }),
    [key],
  )
  return { log, kept, append }
}

function read(key: string): { log: FieldEntry[]; kept: boolean } {
  try {
    const log = storedEntries(localStorage.getItem(key))
    return { log, kept: write(key, log) }
  } catch {
    return { log: [], kept: false }
  }
}

/** Some browsers keep nothing for a page that was opened from a file. */
function write(key: string, log: FieldEntry[]): boolean {
  try {
    localStorage.setItem(key, JSON.stringify(log))
    return true
  } catch {
    return false
  }
}
