'use client'

import { createContext, useContext, useMemo, useRef, useState } from 'react'
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

export interface SheetState {
  kit: Kit
  sheet: PlanSheet
  words: ShootWords
  change: (part: Partial<PlanSheet>) => void
  changeWords: (part: Partial<ShootWords>) => void
  /** What to mend, and where. */
  error?: FieldError
  /** The newest sheet that could be planned; while a field is being mended it stays in view. */
  shown?: SheetPlan & { sheet: PlanSheet }
  stale: boolean
}

/** The fields of the plan screen and the plan that follows them. */
export function usePlanSheet(kit: Kit, shoot: ShootDetail | undefined, refused: FieldError | undefined, onChange: () => void): SheetState {
  const [sheet, setSheet] = useState<PlanSheet>(() => withGear(shoot ? (shoot.sheet ?? sheetOf(shoot.planRequest, kit)) : NEW_SHEET, kit))
  const [words, setWords] = useState<ShootWords>(() => ({
    title: shoot?.title ?? '',
    subject: shoot?.subject ?? '',
    scene: shoot?.scene ?? 'fossil',
  }))
  const answer = useMemo(() => planOfSheet(sheet, kit), [sheet, kit])
  const lastGood = useRef<SheetState['shown']>(undefined)
  if ('plan' in answer && lastGood.current?.plan !== answer.plan) lastGood.current = { ...answer, sheet }
  const stale = 'error' in answer
  const changes = useMemo(
    () => ({
      change: (part: Partial<PlanSheet>) => {
        onChange()
        setSheet((before) => ({ ...before, ...part }))
      },
      changeWords: (part: Partial<ShootWords>) => {
        onChange()
        setWords((before) => ({ ...before, ...part }))
      },
    }),
    [onChange],
  )
  return { kit, sheet, words, ...changes, error: stale ? answer : refused, shown: lastGood.current, stale }
}

const Context = createContext<SheetState | undefined>(undefined)

export const SheetProvider = Context

export function useSheet(): SheetState {
  const state = useContext(Context)
  if (!state) throw new Error('useSheet wants a plan screen above it.')
  return state
}
