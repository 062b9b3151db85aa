'use client'

import { Button } from 'antd'
import { verdictOf, type SheetPlan } from '@/core/sheet'
import { apertureText } from '@/core/units'
import { useUnits } from '../../units'
import { usePlan } from '../planStore'
import styles from './answer.module.css'

/** What to do, in one line; where one frame would do at another aperture, the way there. */
export function VerdictLine({ planned: { plan, request, gear } }: { planned: SheetPlan }) {
  const change = usePlan((state) => state.change)
  const { system } = useUnits()
  const { headline, rest, oneFrameAt } = verdictOf(plan, request, gear.lens, system)
  return (
    <>
      <p className={styles.verdict} data-testid="verdict">
        {headline}
      </p>
      <p className={styles.quiet}>
        {rest}{' '}
        {oneFrameAt && (
          <Button size="small" onClick={() => change({ fNumber: oneFrameAt })}>
            Set {apertureText(oneFrameAt)}
          </Button>
        )}
      </p>
    </>
  )
}
