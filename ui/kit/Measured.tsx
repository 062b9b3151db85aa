import { Button, Select } from 'antd'
import { useState } from 'react'
import type { Kit } from '@/core/kit'
import type { Curvature, MeasuredTarget } from '@/core/learn/target'
import { dateText, significant } from '@/core/units'
import type { RunDetail } from '@/schemas'
import { useSaveKitItem } from '../api'
import { NumberInput } from '../forms'
import { message } from '../messages'
import { useUnits } from '../units'
import styles from './kit.module.css'

interface Props {
  measured: MeasuredTarget
  run: RunDetail
  kit: Kit
}

/** What frames of the printed sheet told, and the way to keep it for plans. */
export function Measured({ measured, run, kit }: Props) {
  const { length, place } = useUnits()
  const { frames, stride_mm, strideSpread_mm, tilt_deg, depthOfFieldRatio, breathing, fieldCurvature, sharpest, magnification } = measured
  const seen = frames.filter(({ focus_mm }) => focus_mm !== null)
  const depths = seen.map(({ depthOfField_mm }) => depthOfField_mm!)
  return (
    <section aria-label="What was measured" className={styles.measured}>
      <p>
        The sheet is tilted by {significant(tilt_deg, 2)}°{magnification !== null && `, pictured at ${significant(magnification, 3)} : 1`}.{' '}
        {seen.length < frames.length && `${frames.length - seen.length} of ${frames.length} frames show too little of it and tell nothing.`}
      </p>
      <dl>
        {stride_mm !== null && (
          <>
            <dt>Focus moves by</dt>
            <dd>
              {length(Math.abs(stride_mm))}
              {strideSpread_mm !== null && ` ± ${significant((100 * strideSpread_mm) / Math.abs(stride_mm), 2)} %`} from frame to frame,{' '}
              {stride_mm < 0 ? 'towards' : 'away from'} the camera
            </dd>
          </>
        )}
        {depths.length > 0 && (
          <>
            <dt>Depth of field, found</dt>
            <dd>
              {length(depths.reduce((sum, depth) => sum + depth, 0) / depths.length)} with a blur of 2 px allowed
              {depthOfFieldRatio !== null && `; ${significant(depthOfFieldRatio, 3)} times what the formula says`}
            </dd>
          </>
        )}
        {breathing !== null && (
          <>
            <dt>Breathing</dt>
            <dd>{significant(100 * breathing, 2)} % larger at the nearest focus than at the farthest</dd>
          </>
        )}
        {fieldCurvature && (
          <>
            <dt>Left and right edges</dt>
            <dd>{curvedText(fieldCurvature, length)}</dd>
          </>
        )}
        {sharpest !== null && (
          <>
            <dt>Sharpest aperture</dt>
            <dd>
              f/{sharpest} <KeepSharpest fNumber={sharpest} run={run} kit={kit} />
            </dd>
          </>
        )}
      </dl>
      <p>Planes of focus, counted from the middle of the sheet away from the camera:</p>
      <ul className={styles.planes} aria-label="Planes of focus">
        {frames.map(({ file, focus_mm }) => (
          <li key={file}>
            {file} <b>{focus_mm === null ? 'not told' : place(focus_mm)}</b>
          </li>
        ))}
      </ul>
      {stride_mm !== null && sharpest === null && <KeepStride {...{ measured, run, kit }} />}
    </section>
  )
}

/** How curved the field is; below twice what it may be off by nothing is claimed. */
function curvedText({ nearer_mm, spread_mm }: Curvature, length: (mm: number) => string): string {
  if (Math.abs(nearer_mm) < 2 * spread_mm) return `as deep as the middle, within ${length(2 * spread_mm)}`
  return `${length(Math.abs(nearer_mm))} ± ${length(spread_mm)} ${nearer_mm > 0 ? 'nearer' : 'farther'} than the middle: plan so much more depth`
}

/** Keeps the stride as the length of a step number of the body's own bracketing. */
function KeepStride({ measured: { stride_mm, strideSpread_mm, magnification }, run: { sheet, setting, created_at, frames }, kit }: Props) {
  const save = useSaveKitItem()
  const [body, setBody] = useState(sheet?.body ?? kit.bodies[0]?.name)
  const [lens, setLens] = useState(sheet?.lens ?? kit.lenses[0]?.name)
  const [number, setNumber] = useState<number | null>(setting?.kind === 'step' ? setting.step : null)
  const fNumber = frames[0]?.exif?.fNumber ?? sheet?.fNumber
  if (!fNumber || magnification === null)
    return <p>Plan the shoot with its body and lens, or bring frames that say their aperture, to keep this for a step number.</p>
  const item = {
    name: `Step ${number}, ${lens}, f/${fNumber} at ${significant(magnification, 3)} : 1, sheet of ${dateText(created_at)}`,
    kind: 'step' as const,
    body: body!,
    lens: lens!,
    fNumber: Number(fNumber),
    magnification: Number(significant(magnification, 4)),
    step: number!,
    stride_mm: Number(significant(Math.abs(stride_mm!), 3)),
    ...(strideSpread_mm !== null && { spread_mm: Number(significant(strideSpread_mm, 2)) }),
  }
  return (
    <div className={styles.sheetRow}>
      <Select aria-label="Body" value={body} onChange={setBody} options={kit.bodies.map(({ name }) => ({ value: name, label: name }))} />
      <Select aria-label="Lens" value={lens} onChange={setLens} options={kit.lenses.map(({ name }) => ({ value: name, label: name }))} />
      <NumberInput aria-label="Step number of its bracketing" suffix="step number" value={number} onChange={setNumber} least={1} />
      <Button
        disabled={!number || !body || !lens}
        loading={save.isPending}
        onClick={() =>
          save.mutate(
            { shelf: 'calibrations', item },
            {
              onSuccess: () => void message.success('Saved with the kit. New plans use it.'),
              onError: (error) => void message.error(error.message),
            },
          )
        }
      >
        Save the stride
      </Button>
    </div>
  )
}

/** Keeps the aperture with the lens: plans warn beyond it. */
function KeepSharpest({ fNumber, run, kit }: { fNumber: number; run: RunDetail; kit: Kit }) {
  const save = useSaveKitItem()
  const lens = kit.lenses.find(({ name }) => name === run.sheet?.lens)
  if (!lens) return null
  if (lens.sharpestFNumber === fNumber) return <>kept with {lens.name}</>
  return (
    <Button
      size="small"
      loading={save.isPending}
      onClick={() =>
        save.mutate(
          { shelf: 'lenses', item: { ...lens, sharpestFNumber: fNumber }, id: lens.id },
          { onError: (error) => void message.error(error.message) },
        )
      }
    >
      Save it with {lens.name}
    </Button>
  )
}
