import { useMutation, useQuery } from '@tanstack/react-query'
import { Button, Modal, Select } from 'antd'
import { useState } from 'react'
import type { Kit } from '@/core/kit'
import { BAR_pitches, LEAST_pitch_mm, MOST_pitch_mm, type MeasuredTarget } from '@/core/learn/target'
import { significant } from '@/core/units'
import type { RunDetail, ShootDetail } from '@/schemas'
import { fetchJson, runJob } from '../api'
import { NumberInput } from '../forms'
import { ShootSelect } from '../ShootSelect'
import { Measured } from './Measured'
import styles from './kit.module.css'

interface Props {
  kit: Kit
  onClose: () => void
}

const PAPERS = [
  { value: 'A4', label: 'A4' },
  { value: 'A5', label: 'A5' },
  { value: 'LETTER', label: 'Letter' },
]
/** The picture is so many pitches wide: the sheet with a margin for both sides. */
const ACROSS = 34

/** Focus measured from a printed sheet: print it, photograph it, have its frames measured. */
export function MeasureSheet({ kit, onClose }: Props) {
  const [picture_mm, setPicture] = useState<number | null>(36)
  const [paper, setPaper] = useState('A4')
  const [bar_mm, setBar] = useState<number | null>(null)
  const [shootId, setShoot] = useState<number>()
  const [runId, setRun] = useState<number>()
  const { data: shoot } = useQuery({
    queryKey: ['shoot', shootId],
    queryFn: () => fetchJson<ShootDetail>(`/api/shoots/${shootId}`),
    enabled: shootId !== undefined,
  })
  const runs = shoot?.runs.filter(({ frames }) => frames.length > 1) ?? []
  const run = runs.find(({ id }) => id === runId) ?? runs[0]
  const pitch_mm =
    picture_mm && Number.isFinite(picture_mm)
      ? Math.min(MOST_pitch_mm, Math.max(LEAST_pitch_mm, Number((picture_mm / ACROSS).toFixed(1))))
      : undefined
  const { mutate, data, error, isPending } = useMutation({
    mutationFn: (of: RunDetail) => runJob<'measure'>(`/api/runs/${of.id}/measure`, factsOf(of, kit, pitch_mm!, bar_mm)) as Promise<MeasuredTarget>,
  })
  return (
    <Modal open width={760} title="Measure with a printed sheet" footer={null} onCancel={onClose}>
      <ol className={styles.sheetSteps}>
        <li>
          <h3>Print the sheet</h3>
          <p>
            How much should the picture show from left to right? {pitch_mm && `The dots are then ${pitch_mm} mm apart.`} Print at 100 %, not fitted to
            the page.
          </p>
          <div className={styles.sheetRow}>
            <NumberInput
              aria-label="Width of the picture on the sheet"
              suffix="mm across the picture"
              value={picture_mm}
              onChange={setPicture}
              least={1}
            />
            <Select aria-label="Paper" value={paper} onChange={setPaper} options={PAPERS} />
            <Button href={pitch_mm ? `/api/kit/sheet?pitch_mm=${pitch_mm}&paper=${paper}` : undefined} disabled={!pitch_mm}>
              Sheet as PDF
            </Button>
          </div>
        </li>
        <li>
          <h3>Photograph it</h3>
          <p>
            Tilt it by about 45°, both rows of dots upright in the picture, evenly lit. For a stride, shoot one series through its middle. For the
            sharpest aperture, leave the focus alone and shoot once at each. Then bring the frames into a shoot.
          </p>
        </li>
        <li>
          <h3>Measure its frames</h3>
          {pitch_mm && (
            <p>
              Measure the line at the left of your print and type its length: all lengths are reckoned from it. Left empty it counts as{' '}
              {significant(BAR_pitches * pitch_mm, 3)} mm, as printed above.
            </p>
          )}
          <div className={styles.sheetRow}>
            <ShootSelect
              className={styles.wide}
              label="Shoot with the sheet"
              onChange={(id) => {
                setShoot(id)
                setRun(undefined)
              }}
            />
            <Select
              aria-label="Run"
              value={run?.id}
              onChange={setRun}
              disabled={runs.length === 0}
              placeholder={shoot ? 'no run yet' : 'Run'}
              options={runs.map(({ id, number, frames }) => ({ value: id, label: `Run ${number}, ${frames.length} frames` }))}
            />
            <NumberInput
              aria-label="Length of the line as printed"
              suffix="mm line"
              placeholder={pitch_mm ? significant(BAR_pitches * pitch_mm, 3) : ''}
              value={bar_mm}
              onChange={setBar}
              least={1}
            />
            <Button type="primary" disabled={!run || !pitch_mm} loading={isPending} onClick={() => mutate(run)}>
              Measure
            </Button>
          </div>
          {error && <p role="alert">▲ {error.message}</p>}
        </li>
      </ol>
      {data && run && <Measured measured={data} run={run} kit={kit} />}
    </Modal>
  )
}

/** What is known of the run: the body's sensor, and the aperture that was planned where the files say none. */
function factsOf({ sheet, frames }: RunDetail, { bodies, lenses }: Kit, pitch_mm: number, bar_mm: number | null): object {
  const body = bodies.find(({ name }) => name === sheet?.body)
  const lens = lenses.find(({ name }) => name === sheet?.lens)
  const saysItself = frames.some(({ exif }) => exif?.fNumber)
  return {
    pitch_mm,
    ...(bar_mm && Number.isFinite(bar_mm) && { bar_mm }),
    ...(body && { sensorWidth_mm: body.sensorWidth_mm }),
    ...(lens && { pupilRatio: lens.pupilRatio }),
    ...(!saysItself && sheet?.fNumber && { fNumber: sheet.fNumber }),
  }
}
