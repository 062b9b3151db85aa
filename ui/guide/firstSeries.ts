import { useSyncExternalStore } from 'react'

const KEY = 'nitidus.firstSeries'
const LATER = 'later'

/** The shoot that is gone through with the guide, `later` where it was declined; nothing on a first visit. */
export function useFirstSeries(): string | null {
  return useSyncExternalStore(
    onChange,
    () => localStorage.getItem(KEY),
    // Nothing is offered before the browser has said.
    () => LATER,
  )
}

export const beginFirstSeries = (shootId: number) => keep(String(shootId))
export const endFirstSeries = () => keep(LATER)

function keep(value: string): void {
  localStorage.setItem(KEY, value)
  window.dispatchEvent(new StorageEvent('storage', { key: KEY }))
}

function onChange(listener: () => void): () => void {
  window.addEventListener('storage', listener)
  return () => window.removeEventListener('storage', listener)
}
