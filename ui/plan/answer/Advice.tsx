'use client'

import { memo } from 'react'
import { chainedParts, composing } from '@/core/plan'
import { nearestText, type PlanSheet, type SheetPlan } from '@/core/sheet'
import { useUnits } from '../../units'
import styles from './answer.module.css'

/** What to know before setting up, in short lines: where it stands, how to compose, what the plan warns of. */
export const Advice = memo(function Advice({ planned, sheet }: { planned: SheetPlan; sheet: PlanSheet }) {
  const { plan, request, gear, step } = planned
  const { system } = useUnits()
  const most = gear.body.bracketMost
  const parts = step && most ? chainedParts(plan.frameCount, most) : []
  return (
    <ul className={styles.advice}>
      {plan.notes.map(({ code, text }) => (
        <li key={code} className={code === 'diffraction-exceeds-criterion' ? styles.fails : undefined}>
          {text}
        </li>
      ))}
      {request.optics.kind === 'lens' && sheet.kind === 'depth' && <li>Near edge: {nearestText(planned, sheet, system)}.</li>}
      {plan.frameCount > 1 && <li>{composing(plan, request).text}</li>}
      {step && <li className={step.calibrated ? undefined : styles.fails}>{step.text}</li>}
      {parts.length > 1 && (
        <li>
          {gear.body.name} takes at most {most} frames at a time. Shoot {parts.length} parts of {parts.join(' + ')} frames, and start each one where
          the one before ended.
        </li>
      )}
    </ul>
  )
})
