import { useCallback, useEffect, useRef, useState } from 'react'
import { mergeLogs, storedEntries, type FieldEntry, type FieldEvent } from '@/core/field'
import { entryAfter } from '../newEntry'

/** The log of a card file, in the browser's own storage where a file may use it; `kept` says whether it may. */
export function useCardLog(card: string) {
  const key = `nitidus-card ${card}`
  const [{ log, kept }, set] = useState(() => ({ log: read(key), kept: write(`${key} tried`, []) }))
  // Two taps may come before the screen has followed the first.
  const newest = useRef(log)
  useEffect(() => {
    // The file may be open twice, and a page that is opened again may be told late what was kept just before.
    const follow = (event: StorageEvent) => {
      if (event.key !== key) return
      newest.current = mergeLogs(read(key), newest.current)
      set((before) => ({ ...before, log: newest.current }))
    }
    window.addEventListener('storage', follow)
    return () => window.removeEventListener('storage', follow)
  }, [key])
  const append = useCallback(
    (event: FieldEvent) => {
      const known = mergeLogs(read(key), newest.current)
      newest.current = [...known, entryAfter(known, event)]
      set({ log: newest.current, kept: write(key, newest.current) })
    },
    [key],
  )
  return { log, kept, append }
}

function read(key: string): FieldEntry[] {
  try {
    return storedEntries(localStorage.getItem(key))
  } catch {
    return []
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
