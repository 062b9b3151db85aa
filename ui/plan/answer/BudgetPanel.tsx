'use client'

import { Button } from 'antd'
import { memo, useMemo, useState } from 'react'
import { isRefusal } from '@/core/words'
import { fitBudget, type BudgetReply, type PlanRequest } from '@/core/plan'
import type { PlanSheet, SheetPlan } from '@/core/sheet'
import { durationText, significant } from '@/core/units'
import { NumberInput } from '../../forms'
import { usePlan } from '../planStore'
import styles from './answer.module.css'

/** The plan the other way round: so many frames, or so many minutes; what must be given up for it? */
export const BudgetPanel = memo(function BudgetPanel({ planned: { request, gear } }: { planned: SheetPlan }) {
  const change = usePlan((state) => state.change)
  const [frames, setFrames] = useState<number | null>(null)
  const [minutes, setMinutes] = useState<number | null>(null)
  const reply = useMemo(() => ask(request, frames, minutes, gear.lens.smallestFNumber), [request, frames, minutes, gear.lens])
  return (
    <section>
      <h2>What if there is only…</h2>
      <div className={styles.row}>
        <label>
          frames
          <NumberInput value={frames} onChange={setFrames} least={1} placeholder="any" aria-label="Frames there are" />
        </label>
        <label>
          minutes
          <NumberInput value={minutes} onChange={setMinutes} least={0} step={0.5} placeholder="any" aria-label="Minutes there are" />
        </label>
      </div>
      {!reply && <p className={styles.quiet}>Enter how many frames or minutes you have. You then see each way to stay within them.</p>}
      {typeof reply === 'string' && <p className={styles.quiet}>{reply}</p>}
      {reply && typeof reply !== 'string' && (
        <>
          <p data-code={reply.said.code}>{reply.said.text}</p>
          <ul className={styles.ways}>
            {reply.ways.map(({ change: what, plan, givenUp, request: fitting }) => (
              <li key={what}>
                <div>
                  <strong>{WAYS[what]}</strong> {givenUp}.
                  <span className={styles.quietLine}>
                    {plan.frameCount} frames, {durationText(plan.duration_s)}
                  </span>
                </div>
                <Button size="small" onClick={() => change(sheetPart(fitting))}>
                  Use this plan
                </Button>
              </li>
            ))}
          </ul>
        </>
      )}
    </section>
  )
})

const WAYS = { aperture: 'Stop down.', overlap: 'Overlap less.', criterion: 'Allow more blur.', all: 'All three.' }

function ask(request: PlanRequest, frames: number | null, minutes: number | null, smallestFNumber: number): BudgetReply | string | undefined {
  if (!frames && !minutes) return undefined
  if (Number.isInteger(frames ?? 1) === false) frames = Math.floor(frames!)
  try {
    return fitBudget(request, { frames: frames ?? undefined, duration_s: minutes ? minutes * 60 : undefined }, { smallestFNumber })
  } catch (error) {
    if (isRefusal(error)) return error.message
    throw error
  }
}

/** What a fitting request changes in the sheet. */
function sheetPart({ optics, overlap, sharpness }: PlanRequest): Partial<PlanSheet> {
  return {
    ...(optics.kind === 'lens' && { fNumber: optics.fNumber }),
    overlap_percent: Number(significant(overlap * 100, 3)),
    ...(sharpness.kind === 'pixels' && { blur_pixels: sharpness.count }),
    ...(sharpness.kind === 'coc' && { coc_mm: sharpness.coc_mm }),
    ...(sharpness.kind === 'print' && { viewingDistance_mm: sharpness.viewingDistance_mm }),
  }
}
