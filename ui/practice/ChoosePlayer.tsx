'use client'

import { useEffect, useState } from 'react'
import { bestOf, seriesOf, type ChooseAnswer, type ChooseTask } from '@/core/practice'
import { significant } from '@/core/units'
import { NumberInput } from '../forms'
import type { PlayerProps } from './player'
import { Picture } from './Picture'
import { MarkIt } from './MarkIt'
import styles from './practice.module.css'

/** A subject and a print: choose, and see what that choice gives. */
export function ChoosePlayer({ task, darkroom, onAnswer, mark }: PlayerProps<ChooseTask, ChooseAnswer>) {
  const [fNumber, setFNumber] = useState(task.fNumbers[0])
  const [stride_mm, setStride] = useState<number | null>(null)
  const [frames, setFrames] = useState<number | null>(null)
  const [shown, setShown] = useState<ImageBitmap>()
  const [error, setError] = useState('')
  const ready = isPositive(stride_mm) && isPositive(frames) && Number.isInteger(frames) && frames <= 500
  useEffect(() => {
    if (!mark || !darkroom || !ready) return
    darkroom.ask('fuse', { request: seriesOf(task, { fNumber, stride_mm, frames }) }).then(setShown, (cause: Error) => setError(cause.message))
  }, [mark, darkroom, ready, task, fNumber, stride_mm, frames])
  return (
    <div className={styles.player}>
      {mark ? (
        <Picture bitmap={shown} label="The fused picture, a part at 100 %" waiting="Your series is shot and fused…" />
      ) : (
        <div className={styles.brief}>
          <p>
            {capital(task.subject.name)}, <b>{significant(task.subject.depth_mm, 3)} mm</b> deep from its nearest to its farthest point, at{' '}
            <b>{task.subject.magnification} : 1</b>.
          </p>
          <p>
            A body of 24 MP, 36 mm wide; a lens of 100 mm; a rail. The picture is printed <b>{task.print_mm / 10} cm wide</b> and looked at from{' '}
            {task.request.sharpness.kind === 'print' && task.request.sharpness.viewingDistance_mm / 10} cm.
          </p>
          <p className={styles.quiet}>
            A blur of one minute of arc in the print passes for sharp: print width and distance tell how large that is on the sensor. A slice is twice
            that blur times the working f-number, over the square of the magnification; diffraction takes its part of it.
          </p>
        </div>
      )}
      <div className={styles.hand}>
        {mark ? (
          <p>
            You chose f/{fNumber}, {frames} frames, {significant(stride_mm!, 2)} mm apart.
          </p>
        ) : (
          <div className={styles.fields}>
            <label>
              Aperture
              <select value={fNumber} onChange={({ target }) => setFNumber(Number(target.value))}>
                {task.fNumbers.map((each) => (
                  <option key={each} value={each}>
                    f/{each}
                  </option>
                ))}
              </select>
            </label>
            <label>
              Step
              <NumberInput aria-label="Step" suffix="mm" value={stride_mm} step={0.05} least={0} onChange={setStride} />
            </label>
            <label>
              Frames
              <NumberInput aria-label="Frames" value={frames} least={1} onChange={setFrames} />
            </label>
          </div>
        )}
        {mark && isPositive(stride_mm) && isPositive(frames) && <Slices task={task} answer={{ fNumber, stride_mm, frames }} />}
        <MarkIt
          ready={mark ? undefined : ready}
          onMark={() => onAnswer({ fNumber, stride_mm: stride_mm!, frames: frames! })}
          label="Shoot it"
          error={error}
        />
      </div>
    </div>
  )
}

const isPositive = (value: number | null): value is number => value !== null && value > 0
const capital = (words: string) => words[0].toUpperCase() + words.slice(1)

/** Planes of focus to scale: those that were chosen above, the fewest that do below. */
function Slices({ task, answer }: { task: ChooseTask; answer: ChooseAnswer }) {
  const { depth_mm } = task.subject
  const best = bestOf(task)
  const rows = [
    { name: 'yours', ...answer },
    { name: 'the fewest', ...best },
  ]
  return (
    <figure className={styles.slices}>
      {rows.map(({ name, stride_mm, frames }) => (
        <div key={name}>
          <span>{name}</span>
          <svg
            viewBox="0 0 100 6"
            preserveAspectRatio="none"
            role="img"
            aria-label={`${name}: ${frames} planes, ${significant(stride_mm, 2)} mm apart`}
          >
            <rect x={0} y={2.4} width={100} height={1.2} />
            {Array.from({ length: Math.min(500, frames) }, (_, k) => (100 * (k + 0.5) * stride_mm) / depth_mm)
              .filter((x) => x <= 100)
              .map((x) => (
                <line key={x} x1={x} x2={x} y1={0} y2={6} />
              ))}
          </svg>
        </div>
      ))}
      <figcaption>From the nearest point, left, to the farthest, {significant(depth_mm, 3)} mm</figcaption>
    </figure>
  )
}
