'use client'

import { Button } from 'antd'
import { memo, useMemo } from 'react'
import { planCsv, planGcode } from '@/core/plan'
import { positionsOf, type PlanSheet, type SheetPlan } from '@/core/sheet'
import { saveText } from '../../save'
import { useUnits } from '../../units'
import styles from './answer.module.css'

/** More rows than this are in the CSV file; a screen has no use for them. */
const MOST_ROWS = 500

interface Props {
  planned: SheetPlan
  sheet: PlanSheet
  title: string
  /** 0-based frame, near to far. */
  selected?: number
  onSelect: (index: number) => void
}

/** Every frame in shooting order: where the focus goes and what it holds sharp, here and as files to take along. */
export const PositionsTable = memo(function PositionsTable({ planned, sheet, title, selected, onSelect }: Props) {
  const { system } = useUnits()
  const { columns, rows } = useMemo(() => positionsOf(planned, sheet, system), [planned, sheet, system])
  const { plan, request, gear } = planned
  const save = (ending: string, text: string) => saveText(`${title || 'plan'}.${ending}`, text)
  const { rail } = gear
  return (
    <section>
      <div className={styles.tableHead}>
        <h2>Every frame, {sheet.direction === 'far' ? 'far to near' : 'near to far'}</h2>
        <Button size="small" onClick={() => save('csv', planCsv(plan))}>
          CSV
        </Button>
        <Button size="small" onClick={() => save('json', JSON.stringify({ request, plan }, null, 2))}>
          JSON
        </Button>
        {rail?.kind === 'motor' && (
          <Button
            size="small"
            onClick={() =>
              save(
                'gcode',
                planGcode(plan, {
                  feed_mmPerMin: rail.feed_mmPerMin!,
                  settle_s: request.timing.settle_s,
                  backlash_mm: rail.backlash_mm * 2,
                  farFirst: sheet.direction === 'far',
                }),
              )
            }
          >
            G-code
          </Button>
        )}
      </div>
      <div className={styles.tableFrame}>
        <table className={styles.table}>
          <thead>
            <tr>
              <th>Shot</th>
              {columns.map((column) => (
                <th key={column}>{column}</th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.slice(0, MOST_ROWS).map(({ index, cells }, shot) => (
              <tr
                key={index}
                onClick={() => onSelect(index - 1)}
                aria-selected={selected === index - 1}
                className={selected === index - 1 ? styles.picked : undefined}
              >
                <td>{shot + 1}</td>
                {cells.map((cell, k) => (
                  <td key={k}>{cell}</td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
        {rows.length > MOST_ROWS && <p className={styles.quiet}>{rows.length - MOST_ROWS} more in the CSV file.</p>}
      </div>
    </section>
  )
})
