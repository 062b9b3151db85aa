import { useCallback, useRef, useState } from 'react'
import { storedEntries, type FieldEntry, type FieldEvent } from '@/core/field'
import { entryAfter } from '../newEntry'

/** The log of a card file, in the browser's own storage where a file may use it; `kept` says whether it may. */
export function useCardLog(card: string) {
  const key = `nitidus-card ${card}`
  const [{ log, kept }, set] = useState(() => read(key))
  // Two taps may come before the screen has followed the first.
  const newest = useRef(log)
  const append = useCallback(
    (event: FieldEvent) => {
      newest.current = [...newest.current, entryAfter(newest.current, event)]
      set({ log: newest.current, kept: write(key, newest.current) })
    },
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
