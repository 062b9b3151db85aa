import { useCallback, useEffect, useMemo } from 'react'
import { create } from 'zustand'
import { persist } from 'zustand/middleware'
import { mergeLogs, type FieldEntry, type FieldEvent } from '@/core/field'
import type { ShootDetail } from '@/schemas'
import { send } from '../api'
import { entryAfter } from './newEntry'

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
      const entry = entryAfter(log, event)
      add(shoot.id, entry)
      return entry
    },
    [add, log, shoot.id],
  )
  return { log, append, unsent: unsent.length }
}
