'use client'

import { useEffect, useState } from 'react'
import type { NearAndFarAnswer, NearAndFarTask } from '@/core/practice'
import { significant } from '@/core/units'
import type { PlayerProps } from './player'
import { Picture, useMagnifier } from './Picture'
import { MarkIt } from './MarkIt'
import styles from './practice.module.css'
import { useShot } from './useShot'

/** A drive through live view: stop where the subject begins, and where it ends. */
export function NearAndFarPlayer({ task, darkroom, onAnswer, mark }: PlayerProps<NearAndFarTask, NearAndFarAnswer>) {
  const { positions_mm } = task.request
  const last = positions_mm.length - 1
  const [step, setStep] = useState(last >> 1)
  const [near, setNear] = useState<number>()
  const [far, setFar] = useState<number>()
  const [truth, setTruth] = useState<{ near_mm: number; far_mm: number }>()
  const { bitmap, error } = useShot(darkroom, task.request, step)
  const magnifier = useMagnifier()
  useEffect(() => {
    if (mark && darkroom) void darkroom.ask('extent', { request: task.request }).then(setTruth)
  }, [mark, darkroom, task.request])
  useEffect(() => {
    const onKey = ({ key, target, ctrlKey, metaKey }: KeyboardEvent) => {
      if (mark || ctrlKey || metaKey) return
      if (key === 'n') setNear(step)
      else if (key === 'f') setFar(step)
      else if ((key === 'ArrowLeft' || key === 'ArrowRight') && !(target instanceof HTMLInputElement))
        setStep((now) => Math.min(last, Math.max(0, now + (key === 'ArrowRight' ? 1 : -1))))
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [mark, step, last])
  const at = (mm: number) => `${(100 * (mm - positions_mm[0])) / (positions_mm[last] - positions_mm[0])}%`
  return (
    <div className={styles.player}>
      <Picture bitmap={bitmap} label="Live view" {...magnifier} />
      <div className={styles.hand}>
        <p>
          Drive the focus with ← and →. Click into the picture, or press M, for the magnifier. At f/{task.request.camera.fNumber} a slice is{' '}
          {significant(task.slice_mm, 2)} mm deep.
        </p>
        <label className={styles.drive}>
          <span>near</span>
          <input type="range" aria-label="Focus" min={0} max={last} value={step} onChange={({ target }) => setStep(Number(target.value))} />
          <span>far</span>
        </label>
        <div className={styles.ends} aria-hidden>
          {truth && <i className={styles.truth} style={{ left: at(truth.near_mm), right: `calc(100% - ${at(truth.far_mm)})` }} />}
          {[near, far].map((end, k) => end !== undefined && <b key={k} style={{ left: at(positions_mm[end]) }} />)}
        </div>
        {truth && <p className={styles.quiet}>The bar is the subject; the strokes are your ends.</p>}
        <div className={styles.buttons}>
          <button type="button" aria-pressed={near !== undefined} disabled={!!mark} onClick={() => setNear(step)}>
            It begins here {near !== undefined && '✓'}
          </button>
          <button type="button" aria-pressed={far !== undefined} disabled={!!mark} onClick={() => setFar(step)}>
            It ends here {far !== undefined && '✓'}
          </button>
        </div>
        <MarkIt
          ready={mark ? undefined : near !== undefined && far !== undefined}
          onMark={() => onAnswer({ near: near!, far: far! })}
          error={error}
        />
      </div>
    </div>
  )
}
