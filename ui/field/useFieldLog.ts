import { useCallback, useEffect, useMemo } from 'react'
import { create } from 'zustand'
import { persist } from 'zustand/middleware'
import { mergeLogs, type FieldEntry, type FieldEvent } from '@/core/field'
import type { ShootDetail } from '@/schemas'
import { send } from '../api'

interface LogStore {
  /** Entries made on this phone, by shoot, and the ids of those that the application has not confirmed. */
  logs: Record<number, FieldEntry[]>
  unsent: Record<number, string[]>
  add(shootId: number, entry: FieldEntry): void
  confirm(shootId: number, ids: string[]): void
}

/** Kept in the browser, so that neither a reload nor a lost connection loses an entry. */
const useLogStore = create<LogStore>()(
  persist(
    (set) => ({
      logs: {},
      unsent: {},
      add: (shootId, entry) =>
        set(({ logs, unsent }) => ({
          logs: { ...logs, [shootId]: [...(logs[shootId] ?? []), entry] },
          unsent: { ...unsent, [shootId]: [...(unsent[shootId] ?? []), entry.id] },
        })),
      confirm: (shootId, ids) =>
        set(({ unsent }) => ({ unsent: { ...unsent, [shootId]: (unsent[shootId] ?? []).filter((id) => !ids.includes(id)) } })),
    }),
    { name: 'nitidus-field' },
  ),
)

const NONE: never[] = []
const RETRY_ms = 5000

/** The field log of a shoot: what the application has and what this phone has, and the way to add to it. */
export function useFieldLog(shoot: ShootDetail) {
  const local = useLogStore(({ logs }) => logs[shoot.id] ?? NONE)
  const unsent = useLogStore((store) => store.unsent[shoot.id] ?? NONE)
  const { add, confirm } = useLogStore.getState()
  const log = useMemo(() => mergeLogs(shoot.field, local), [shoot.field, local])

  useEffect(() => {
    if (unsent.length === 0) return
    const hand = async () => {
      const entries = local.filter(({ id }) => unsent.includes(id))
      await send(`/api/shoots/${shoot.id}/field`, 'POST', { entries }).then(
        () => confirm(shoot.id, unsent),
        // Kept here; tried again when the connection is back, or in a while.
        () => undefined,
      )
    }
    void hand()
    const again = setInterval(hand, RETRY_ms)
    window.addEventListener('online', hand)
    return () => {
      clearInterval(again)
      window.removeEventListener('online', hand)
    }
  }, [local, unsent, shoot.id, confirm])

  const append = useCallback(
    (event: FieldEvent) => {
      // After everything that is there already, even where this phone's clock is behind.
      const last = log.at(-1)?.at ?? ''
      const now = new Date().toISOString()
      const at = now > last ? now : new Date(Date.parse(last) + 1).toISOString()
      const entry: FieldEntry = { id: newId(), at, ...event }
      add(shoot.id, entry)
      return entry
    },
    [add, log, shoot.id],
  )
  return { log, append, unsent: unsent.length }
}

/** A random UUID; `crypto.randomUUID` is not there on a phone that reaches the application by plain HTTP. */
function newId(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16))
  bytes[6] = (bytes[6] & 0x0f) | 0x40
  bytes[8] = (bytes[8] & 0x3f) | 0x80
  const hex = [...bytes].map((byte) => byte.toString(16).padStart(2, '0')).join('')
  return [hex.slice(0, 8), hex.slice(8, 12), hex.slice(12, 16), hex.slice(16, 20), hex.slice(20)].join('-')
}
