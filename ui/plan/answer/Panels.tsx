'use client'

import { Tabs } from 'antd'
import dynamic from 'next/dynamic'
import { memo, useMemo } from 'react'
import { usePlan, type ShownPlan } from '../planStore'
import { PlanNumbers } from './PlanNumbers'
import styles from './answer.module.css'

/** Charts, and what is asked for now and then, come when their panel is opened. */
const PlanCharts = dynamic(() => import('./PlanCharts').then((part) => part.PlanCharts), { ssr: false })
const BudgetPanel = dynamic(() => import('./BudgetPanel').then((part) => part.BudgetPanel), { ssr: false })
const ComparePanel = dynamic(() => import('./ComparePanel').then((part) => part.ComparePanel), { ssr: false })
const LightPanel = dynamic(() => import('./LightPanel').then((part) => part.LightPanel), { ssr: false })
const PositionsTable = dynamic(() => import('./PositionsTable').then((part) => part.PositionsTable), { ssr: false })
const TradePanel = dynamic(() => import('./TradePanel').then((part) => part.TradePanel), { ssr: false })

interface Props {
  planned: ShownPlan
  selected?: number
  onSelect: (index: number) => void
}

/** Everything that can be asked of a plan, a panel a question. */
export const Panels = memo(function Panels({ planned, selected, onSelect }: Props) {
  const title = usePlan(({ words }) => words.title)
  const kit = usePlan((state) => state.kit)
  const focalLengths_mm = useMemo(() => [...new Set(kit.lenses.map((lens) => lens.focalLength_mm))].sort((a, b) => a - b), [kit])
  const { sheet } = planned
  const panels = [
    { key: 'figures', label: 'Figures', children: <PlanNumbers planned={planned} sheet={planned.sheet} /> },
    { key: 'blur', label: 'Aperture and blur', children: <PlanCharts planned={planned} /> },
    {
      key: 'frames',
      label: 'Every frame',
      children: <PositionsTable planned={planned} sheet={sheet} title={title} selected={selected} onSelect={onSelect} />,
    },
    { key: 'light', label: 'Light, time, load', children: <LightPanel planned={planned} sheet={sheet} /> },
    {
      key: 'what-if',
      label: 'What if',
      children: (
        <div className={styles.stack}>
          <BudgetPanel planned={planned} />
          <ComparePanel planned={planned} sheet={sheet} />
          <TradePanel planned={planned} sheet={sheet} focalLengths_mm={focalLengths_mm} />
        </div>
      ),
    },
  ]
  return <Tabs items={panels} className={styles.wrappedTabs} />
})
