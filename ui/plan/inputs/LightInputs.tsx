'use client'

import { Checkbox } from 'antd'
import type { Surrounding } from '@/core/plan'
import { handTimes } from '@/core/sheet'
import { durationText, exposureText, significant } from '@/core/units'
import { PlanWords, usePlan } from '../planStore'
import { CheckField, ExposureField, NumberField } from './Field'
import styles from './inputs.module.css'

/** Exposure of every frame, and the time that goes by around it. */
export function LightInputs() {
  const byDistances = usePlan(({ sheet }) => sheet.kind === 'range')
  return (
    <details className={styles.group}>
      <summary>
        Light and time{' '}
        <span>
          <PlanWords of={({ shown }) => shown && `${exposureText(shown.request.timing.exposure_s)}, in all ${durationText(shown.plan.duration_s)}`} />
        </span>
      </summary>
      <ExposureField name="testExposure_s" label="Test exposure, without filter" />
      <div className={styles.pair}>
        <NumberField name="filter_stops" label="Filter" unit="stops" />
        <NumberField name="polariser_stops" label="Polariser" unit="stops" step={0.5} />
        <NumberField name="headroom_stops" label="Highlight headroom" unit="stops" step={0.5} />
      </div>
      <div className={styles.pair}>
        <NumberField
          name="move_s"
          label="Moving the focus"
          unit="s"
          hint={
            <PlanWords
              of={({ shown }) =>
                shown &&
                `usual here: ${significant(handTimes({ ...shown.sheet, move_s: null }, shown.gear, shown.plan.stride_mm).move_s, 2)} s a frame`
              }
            />
          }
        />
        {byDistances && <NumberField name="filter_s" label="Filter off and on" unit="s" hint="usual: 20 s a frame" />}
      </div>
      <CheckField name="handMetered" label="Metered with a hand meter: add the light lost to extension" />
      <div className={styles.pair}>
        <NumberField name="settle_s" label="Settling" unit="s" hint="empty: as long as the rail needs" />
        <NumberField name="delay_s" label="Mirror or self-timer" unit="s" />
        <NumberField name="interval_s" label="Shortest interval" unit="s" />
      </div>
    </details>
  )
}

const SURROUNDINGS: { value: Surrounding; label: string }[] = [
  { value: 'water', label: 'water or tide' },
  { value: 'height', label: 'an edge or height' },
  { value: 'road', label: 'traffic' },
  { value: 'animals', label: 'live animals' },
  { value: 'protected', label: 'a protected site' },
  { value: 'people', label: 'people about' },
]

/** What is around, for the cautions on the run card. */
export function AroundInputs() {
  const surroundings = usePlan(({ sheet }) => sheet.surroundings)
  const change = usePlan((state) => state.change)
  return (
    <details className={styles.group}>
      <summary>
        Around{' '}
        <span>
          {SURROUNDINGS.filter(({ value }) => surroundings.includes(value))
            .map(({ label }) => label)
            .join(', ') || 'nothing special'}
        </span>
      </summary>
      <Checkbox.Group options={SURROUNDINGS} value={surroundings} onChange={(next) => change({ surroundings: next })} className={styles.checks} />
    </details>
  )
}
