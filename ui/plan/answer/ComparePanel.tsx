'use client'

import { Button } from 'antd'
import { memo, useState } from 'react'
import { comparePlans, type PlanSheet, type SheetPlan } from '@/core/sheet'
import { significant } from '@/core/units'
import { useUnits } from '../../units'
import { usePlan } from '../planStore'
import styles from './answer.module.css'

/** Two plans side by side: one held still, and the one in the fields. */
export const ComparePanel = memo(function ComparePanel({ planned, sheet }: { planned: SheetPlan; sheet: PlanSheet }) {
  const change = usePlan((state) => state.change)
  const { system } = useUnits()
  const [held, setHeld] = useState<{ planned: SheetPlan; sheet: PlanSheet }>()
  const rows = held ? comparePlans(held.planned, planned, system) : []
  const changed = rows.filter(({ said }) => said)
  return (
    <section>
      <h2>Two plans side by side</h2>
      <p className={styles.row}>
        <Button size="small" onClick={() => setHeld({ planned, sheet })}>
          {held ? 'Compare with this one instead' : 'Compare with this plan'}
        </Button>
        {held && (
          <Button size="small" onClick={() => change(held.sheet)} disabled={changed.length === 0}>
            Go back to the first plan
          </Button>
        )}
      </p>
      {!held && <p className={styles.quiet}>Keep this plan for comparison, change any field, and see what the change means.</p>}
      {held && (
        <>
          <p data-testid="differences">
            {changed.length === 0 ? 'No difference yet: change a field.' : `${capital(changed.map(({ said }) => said).join(', '))}.`}
          </p>
          <table className={styles.table}>
            <thead>
              <tr>
                <th />
                <th>held</th>
                <th>now</th>
                <th>means</th>
              </tr>
            </thead>
            <tbody>
              {rows.map(({ what, before, after, said, factor }) => (
                <tr key={what} className={said ? undefined : styles.same}>
                  <td>{what}</td>
                  <td>{before}</td>
                  <td>{after}</td>
                  <td>{said ? `${said}, × ${significant(factor, 2)}` : 'the same'}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
    </section>
  )
})

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)
