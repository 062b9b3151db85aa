import { create } from 'zustand'
import { persist } from 'zustand/middleware'
import type { PlanSheet } from '@/core/sheet'
import type { ShootWords } from './planStore'

/** What was typed and not kept yet. */
export interface Draft {
  sheet: PlanSheet
  words: ShootWords
  /** ISO 8601, UTC: when it was last changed. */
  at: string
}

interface Drafts {
  /** By shoot; `new` for one that is not kept yet. */
  drafts: Record<string, Draft>
  put(of: string, draft: Draft): void
  drop(of: string): void
}

/** Drafts of plans, kept in the browser: leaving the screen, a reload or a closed tab loses nothing that was typed. */
export const useDrafts = create<Drafts>()(
  persist(
    (set) => ({
      drafts: {},
      put: (of, draft) => set(({ drafts }) => ({ drafts: { ...drafts, [of]: draft } })),
      drop: (of) => set(({ drafts: { [of]: _, ...rest } }) => ({ drafts: rest })),
    }),
    { name: 'nitidus-plan-drafts' },
  ),
)

export const draftName = (shootId?: number) => (shootId === undefined ? 'new' : String(shootId))
