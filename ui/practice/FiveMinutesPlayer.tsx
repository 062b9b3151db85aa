'use client'

import { useState } from 'react'
import { Evening, hyperfocalOf, LIGHT_s, type FiveMinutesAnswer, type FiveMinutesTask } from '@/core/practice'
import { exposureText, lengthText, significant } from '@/core/units'
import type { PlayerProps } from './player'
import { Picture } from './Picture'
import { MarkIt } from './MarkIt'
import styles from './practice.module.css'
import { useShot } from './useShot'

/** The dial of the exposure: half stops. */
const EXPOSURES_s = Array.from({ length: 29 }, (_, k) => 2 ** (k / 2 - 6))
/** How dark the view is with the filter on. */
const FILTERED = 0.08

/** An evening with a camera and a filter: each thing one does takes its seconds. */
export function FiveMinutesPlayer({ task, darkroom, onAnswer, mark }: PlayerProps<FiveMinutesTask, FiveMinutesAnswer>) {
  const [evening] = useState(() => new Evening(task))
  const [, setDone] = useState(0)
  const [view, setView] = useState(task.targets.length)
  const [dial, setDial] = useState(() => nearest(task.exposure_s))
  const [said, setSaid] = useState('')
  const { bitmap, error } = useShot(darkroom, task.request, view)
  const act = (what: () => string) => {
    setSaid(what())
    setDone((n) => n + 1)
  }
  const left_s = Math.max(0, LIGHT_s - evening.clock_s)
  const focus = (index: number) =>
    act(() => {
      const saw = evening.focusOn(index)
      setView(saw ? index : task.targets.length)
      return saw ? `Focused on ${task.targets[index].name}.` : 'With the filter on there is hardly anything to focus by.'
    })
  return (
    <div className={styles.player}>
      <Picture
        bitmap={bitmap}
        label="The view through the lens"
        brightness={(evening.filterOn ? FILTERED : 1) * Math.max(0.25, 0.5 ** (evening.clock_s / task.halving_s))}
      />
      <div className={styles.hand}>
        <p>
          {task.lens.focalLength_mm} mm at f/{task.lens.fNumber}. Allowed blur {significant(task.coc_mm, 2)} mm: the hyperfocal distance is{' '}
          {lengthText(hyperfocalOf(task), 'metric')}. The filter takes {task.filter_stops} stops.
        </p>
        <dl className={styles.evening}>
          <div>
            <dt>Light left</dt>
            <dd>
              {Math.floor(left_s / 60)} min {String(Math.floor(left_s % 60)).padStart(2, '0')} s
            </dd>
          </div>
          <div>
            <dt>The meter says</dt>
            <dd>{exposureText(evening.metered_s)}</dd>
          </div>
          <div>
            <dt>Frames</dt>
            <dd>{evening.taken.length}</dd>
          </div>
        </dl>
        <fieldset className={styles.targets} disabled={!!mark}>
          <legend>Focus on, 8 s each</legend>
          {task.targets.map(({ name, distance_mm }, index) => (
            <button key={name} type="button" onClick={() => focus(index)}>
              {name} <small>{lengthText(distance_mm, 'metric')}</small>
            </button>
          ))}
        </fieldset>
        <div className={styles.buttons}>
          <button
            type="button"
            disabled={!!mark}
            aria-pressed={evening.filterOn}
            onClick={() => act(() => (evening.turnFilter(), `The filter is ${evening.filterOn ? 'on' : 'off'}.`))}
          >
            Filter {evening.filterOn ? 'on' : 'off'}
          </button>
          <label className={styles.exposure}>
            Exposure
            <select
              value={dial}
              disabled={!!mark}
              onChange={({ target }) => {
                setDial(Number(target.value))
                act(() => (evening.setExposure(EXPOSURES_s[Number(target.value)]), ''))
              }}
            >
              {EXPOSURES_s.map((seconds, k) => (
                <option key={k} value={k}>
                  {exposureText(seconds)}
                </option>
              ))}
            </select>
          </label>
          <button
            type="button"
            disabled={!!mark}
            onClick={() =>
              act(() => {
                evening.press()
                return `Frame ${evening.taken.length} is taken.`
              })
            }
          >
            Press the shutter
          </button>
        </div>
        <p role="status">{said}</p>
        <MarkIt
          ready={mark ? undefined : evening.taken.length > 0}
          onMark={() => onAnswer({ taken: evening.taken, clock_s: evening.clock_s })}
          error={error}
        />
      </div>
    </div>
  )
}

const nearest = (seconds: number) =>
  EXPOSURES_s.reduce((best, each, k) => (Math.abs(Math.log(each / seconds)) < Math.abs(Math.log(EXPOSURES_s[best] / seconds)) ? k : best), 0)
