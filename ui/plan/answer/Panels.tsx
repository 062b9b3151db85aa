'use client'

import { Tabs } from 'antd'
import { memo, useMemo } from 'react'
import { usePlan, type ShownPlan } from '../planStore'
import { BudgetPanel } from './BudgetPanel'
import { ComparePanel } from './ComparePanel'
import { LightPanel } from './LightPanel'
import { PlanCharts } from './PlanCharts'
import { PlanNumbers } from './PlanNumbers'
import { PositionsTable } from './PositionsTable'
import { TradePanel } from './TradePanel'
import styles from './answer.module.css'

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
    { key: 'figures', label: 'Figures', children: <PlanNumbers plan={planned.plan} request={planned.request} /> },
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
  return <Tabs items={panels} />
})
