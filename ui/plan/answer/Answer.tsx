'use client'

import { Alert, Tabs } from 'antd'
import { useDeferredValue, useMemo, useState } from 'react'
import { serveTargets } from '@/core/plan'
import { targetsOf } from '@/core/sheet'
import { DepthRibbon } from '../../ribbon'
import { useSheet } from '../usePlanSheet'
import { Advice } from './Advice'
import { BudgetPanel } from './BudgetPanel'
import { ComparePanel } from './ComparePanel'
import { LightPanel } from './LightPanel'
import { PlanCharts } from './PlanCharts'
import { PlanNumbers } from './PlanNumbers'
import { PositionsTable } from './PositionsTable'
import { SideView } from './SideView'
import { TradePanel } from './TradePanel'
import { VerdictLine } from './VerdictLine'
import styles from './answer.module.css'

/** What the fields amount to. Verdict, side view and ribbon follow every keystroke; the rest follows when there is time. */
export function Answer() {
  const { shown, stale, error, words, kit } = useSheet()
  const [picked, setPicked] = useState<number>()
  const later = useDeferredValue(shown)
  const focalLengths_mm = useMemo(() => [...new Set(kit.lenses.map((lens) => lens.focalLength_mm))].sort((a, b) => a - b), [kit])
  if (!shown || !later) return error ? <Alert type="warning" title={error.error} showIcon /> : null
  const { plan, request, sheet } = shown
  const selected = picked !== undefined && picked < plan.frameCount ? picked : undefined
  const pins = serveTargets(plan, request, targetsOf(sheet)).map(({ name, distance_mm, sharp, frame }) => ({
    name: `${name} · ${frame}`,
    at_mm: distance_mm,
    sharp,
  }))
  const panels = [
    { key: 'figures', label: 'Figures', children: <PlanNumbers plan={later.plan} request={later.request} /> },
    { key: 'blur', label: 'Aperture and blur', children: <PlanCharts planned={later} /> },
    {
      key: 'frames',
      label: 'Every frame',
      children: <PositionsTable planned={later} sheet={later.sheet} title={words.title} selected={selected} onSelect={setPicked} />,
    },
    { key: 'light', label: 'Light, time, load', children: <LightPanel planned={later} sheet={later.sheet} /> },
    {
      key: 'what-if',
      label: 'What if',
      children: (
        <div className={styles.stack}>
          <BudgetPanel planned={later} />
          <ComparePanel planned={later} sheet={later.sheet} />
          <TradePanel planned={later} sheet={later.sheet} focalLengths_mm={focalLengths_mm} />
        </div>
      ),
    },
  ]
  return (
    <>
      {stale && error && <Alert type="warning" title={error.error} showIcon />}
      <div className={stale ? styles.stale : undefined}>
        <VerdictLine planned={shown} />
        <SideView planned={shown} sheet={sheet} selected={selected} />
        <DepthRibbon plan={plan} request={request} selected={selected} onSelect={setPicked} pins={pins} />
        <Advice planned={later} sheet={later.sheet} />
        <Tabs items={panels} />
      </div>
    </>
  )
}
