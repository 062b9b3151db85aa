'use client'

import { createContext, useContext } from 'react'
import { createStore, useStore, type StoreApi } from 'zustand'
import type { Kit } from '@/core/kit'
import { landscapeSheet, NEW_SHEET, sheetOf, withGear, type PlanSheet, type SheetPlan } from '@/core/sheet'
import { planOfSheet, type ShootDetail } from '@/schemas'
import type { Draft } from './drafts'

/** What is said about the shoot beside its plan. */
export interface ShootWords {
  title: string
  subject: string
  scene: string
}

export type FieldError = { field: string; error: string }

/** A sheet that could be planned, with its plan. */
export type ShownPlan = SheetPlan & { sheet: PlanSheet }

export interface PlanState {
  kit: Kit
  sheet: PlanSheet
  /** Nothing of it is kept yet. */
  isNew: boolean
  words: ShootWords
  /** Frames of the shoot that the browser can show, to measure in. */
  pictures: { label: string; address: string }[]
  /** What to mend, and where: found while planning, or refused when keeping. */
  error?: FieldError
  /** The newest sheet that could be planned; while a field is being mended it stays in view. */
  shown?: ShownPlan
  /** `shown` is not what stands in the fields. */
  stale: boolean
  change: (part: Partial<PlanSheet>) => void
  /** Close up or by distances: brings what suits it, and what stood there before where it was chosen once already. */
  changeKind: (kind: PlanSheet['kind']) => void
  changeWords: (part: Partial<ShootWords>) => void
  useKit: (kit: Kit) => void
  refuse: (error: FieldError) => void
}

/** The fields of the plan screen and the plan that follows them. Every part of the screen listens to what it shows only. */
export function createPlanStore(kit: Kit, shoot?: ShootDetail, draft?: Draft): StoreApi<PlanState> {
  const kept = keptOf(kit, shoot)
  // A draft of an older version lacks fields that the sheet has now.
  const sheet = withGear({ ...kept.sheet, ...draft?.sheet }, kit)
  const aside: Partial<Record<PlanSheet['kind'], Aside>> = {}
  return createStore<PlanState>((set) => ({
    kit,
    sheet,
    isNew: shoot === undefined,
    words: draft?.words ?? kept.words,
    pictures: picturesOf(shoot),
    ...follow(sheet, kit),
    change: (part) =>
      set((state) => {
        const next = { ...state.sheet, ...part }
        return { sheet: next, ...follow(next, state.kit) }
      }),
    changeKind: (kind) =>
      set((state) => {
        const { sheet: before, words } = state
        if (before.kind === kind) return {}
        const suits = landscapeSheet(state.kit)
        aside[before.kind] = { sheet: pick(before, Object.keys(suits) as (keyof PlanSheet)[]), scene: words.scene }
        const instead =
          aside[kind] ??
          (kind === 'range'
            ? { sheet: suits, scene: 'garden' }
            : { sheet: pick(withGear(NEW_SHEET, state.kit), Object.keys(suits) as (keyof PlanSheet)[]), scene: 'fossil' })
        const next = { ...before, ...instead.sheet, kind }
        return { sheet: next, words: { ...words, scene: instead.scene }, ...follow(next, state.kit) }
      }),
    changeWords: (part) => set((state) => ({ words: { ...state.words, ...part }, ...(state.stale ? {} : { error: undefined }) })),
    useKit: (next) => set((state) => (next === state.kit ? {} : { kit: next, ...follow(state.sheet, next) })),
    refuse: (error) => set({ error }),
  }))
}

/** What was put aside when the other kind of subject was chosen. */
interface Aside {
  sheet: Partial<PlanSheet>
  scene: string
}

const pick = (sheet: PlanSheet, keys: (keyof PlanSheet)[]): Partial<PlanSheet> => Object.fromEntries(keys.map((key) => [key, sheet[key]]))

/** Sheet and words of a shoot as they are kept, or those of a new one. */
export function keptOf(kit: Kit, shoot?: ShootDetail): { sheet: PlanSheet; words: ShootWords } {
  const kept = shoot && (shoot.sheet ?? (shoot.planRequest && sheetOf(shoot.planRequest, kit)))
  return {
    sheet: withGear(kept ?? NEW_SHEET, kit),
    words: { title: shoot?.title ?? '', subject: shoot?.subject ?? '', scene: shoot?.scene ?? 'fossil' },
  }
}

function picturesOf(shoot?: ShootDetail): PlanState['pictures'] {
  return (shoot?.runs ?? []).flatMap(({ number, frames }) =>
    frames
      .filter(({ name }) => /\.(jpe?g|png)$/i.test(name))
      .map(({ id, name }) => ({ label: `run ${number}, ${name}`, address: `/api/frames/${id}/original` })),
  )
}

/** What a sheet amounts to; where it cannot be planned, the plan in view is left as it is. */
function follow(sheet: PlanSheet, kit: Kit): Pick<PlanState, 'error' | 'stale'> & Partial<Pick<PlanState, 'shown'>> {
  const answer = planOfSheet(sheet, kit)
  return 'plan' in answer ? { shown: { ...answer, sheet }, stale: false, error: undefined } : { stale: true, error: answer }
}

const Context = createContext<StoreApi<PlanState> | undefined>(undefined)

export const PlanStoreProvider = Context

/** A part of the plan screen's state; the component is drawn again when that part changes. */
export function usePlan<T>(select: (state: PlanState) => T): T {
  const store = useContext(Context)
  if (!store) throw new Error('usePlan wants a plan screen above it.')
  return useStore(store, select)
}

/** Words that follow the plan; drawn again only when they change, and alone. */
export function PlanWords({ of }: { of: (state: PlanState) => string | false | undefined }) {
  return usePlan(of) || null
}
