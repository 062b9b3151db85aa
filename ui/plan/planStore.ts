'use client'

import { createContext, useContext } from 'react'
import { createStore, useStore, type StoreApi } from 'zustand'
import type { Kit } from '@/core/kit'
import { NEW_SHEET, sheetOf, withGear, type PlanSheet, type SheetPlan } from '@/core/sheet'
import { planOfSheet, type ShootDetail } from '@/schemas'

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
  changeWords: (part: Partial<ShootWords>) => void
  useKit: (kit: Kit) => void
  refuse: (error: FieldError) => void
}

/** The fields of the plan screen and the plan that follows them. Every part of the screen listens to what it shows only. */
export function createPlanStore(kit: Kit, shoot?: ShootDetail): StoreApi<PlanState> {
  const sheet = withGear(shoot ? (shoot.sheet ?? sheetOf(shoot.planRequest, kit)) : NEW_SHEET, kit)
  return createStore<PlanState>((set) => ({
    kit,
    sheet,
    words: { title: shoot?.title ?? '', subject: shoot?.subject ?? '', scene: shoot?.scene ?? 'fossil' },
    pictures: picturesOf(shoot),
    ...follow(sheet, kit),
    change: (part) =>
      set((state) => {
        const next = { ...state.sheet, ...part }
        return { sheet: next, ...follow(next, state.kit) }
      }),
    changeWords: (part) => set((state) => ({ words: { ...state.words, ...part }, ...(state.stale ? {} : { error: undefined }) })),
    useKit: (next) => set((state) => (next === state.kit ? {} : { kit: next, ...follow(state.sheet, next) })),
    refuse: (error) => set({ error }),
  }))
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
