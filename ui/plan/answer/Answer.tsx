'use client'

import { useCallback, useDeferredValue, useMemo, useState } from 'react'
import { serveTargets } from '@/core/plan'
import { targetsOf } from '@/core/sheet'
import { DepthRibbon } from '../../ribbon'
import { usePlan, type ShownPlan } from '../planStore'
import { Advice } from './Advice'
import { Panels } from './Panels'
import { SideView } from './SideView'
import { VerdictLine } from './VerdictLine'
import styles from './answer.module.css'

/** What the fields amount to. Verdict, side view and ribbon follow every keystroke; the rest follows when there is time. */
export function Answer() {
  const shown = usePlan((state) => state.shown)
  const stale = usePlan((state) => state.stale)
  const error = usePlan((state) => state.error?.error)
  return (
    <>
      {stale && error && (
        <p role="alert" className={styles.refused}>
          ▲ {error}
        </p>
      )}
      {shown && (
        <div className={stale ? styles.stale : undefined}>
          <Shown shown={shown} />
        </div>
      )}
    </>
  )
}

function Shown({ shown }: { shown: ShownPlan }) {
  const [picked, setPicked] = useState<number>()
  const pick = useCallback((index: number) => setPicked(index), [])
  const later = useDeferredValue(shown)
  const { plan, request, sheet, gear } = shown
  const selected = picked !== undefined && picked < plan.frameCount ? picked : undefined
  const pins = useMemo(
    () =>
      serveTargets(plan, request, targetsOf(sheet, gear.lens.focalLength_mm)).map(({ name, distance_mm, sharp, frame }) => ({
        name: `${name} · ${frame}`,
        at_mm: distance_mm,
        sharp,
      })),
    [plan, request, sheet, gear],
  )
  return (
    <>
      <VerdictLine planned={shown} />
      <SideView planned={shown} sheet={sheet} selected={selected} />
      <DepthRibbon plan={plan} request={request} selected={selected} onSelect={pick} pins={pins} />
      <Advice planned={later} sheet={later.sheet} />
      <Panels planned={later} selected={selected} onSelect={pick} />
    </>
  )
}
