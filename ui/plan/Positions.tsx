'use client'

import { Button, Radio } from 'antd'
import { useState } from 'react'
import { dialAt, planCsv, planGcode, railResolution_mm, type Plan, type PlanRequest } from '@/core/plan'
import { inchesText } from '@/core/units'
import { BENCH_RAIL } from '@/demo/kit'
import { lengthText } from '../units'
import styles from './plan.module.css'

/** More rows than this are in the CSV file; a screen has no use for them. */
const MOST_ROWS = 500

/** Every frame: where the focus goes and what it holds sharp, on the screen and as files to take along. */
export function Positions({ plan, request, title }: { plan: Plan; request: PlanRequest; title: string }) {
  const [unit, setUnit] = useState<'metric' | 'inches'>('metric')
  const range = plan.hyperfocal_mm !== undefined
  const distance = unit === 'inches' ? inchesText : lengthText
  const dial = request.mover.kind === 'rail' && Math.abs(request.mover.resolution_mm - railResolution_mm(BENCH_RAIL)) < 1e-9 ? BENCH_RAIL : undefined
  const save = (ending: string, text: string) => saveText(`${title || 'plan'}.${ending}`, text)
  return (
    <section>
      <div className={styles.positionsHead}>
        <h2>Every frame, near to far</h2>
        {range && (
          <Radio.Group
            size="small"
            value={unit}
            onChange={(event) => setUnit(event.target.value)}
            options={[
              { value: 'metric', label: 'metric' },
              { value: 'inches', label: 'inches' },
            ]}
          />
        )}
        <Button size="small" onClick={() => save('csv', planCsv(plan))}>
          CSV
        </Button>
        <Button size="small" onClick={() => save('json', JSON.stringify({ request, plan }, null, 2))}>
          JSON
        </Button>
        {request.mover.kind === 'rail' && !range && (
          <Button
            size="small"
            onClick={() => save('gcode', planGcode(plan, { feed_mmPerMin: 60, settle_s: request.timing.settle_s, backlash_mm: 0.2 }))}
          >
            G-code for a motorised rail
          </Button>
        )}
      </div>
      <div className={styles.tableFrame}>
        <table className={styles.positions}>
          <thead>
            <tr>
              <th>Frame</th>
              <th>{range ? 'Focus, on the lens scale' : 'Mover, from the first frame'}</th>
              {dial && <th>Dial of the bench rail</th>}
              <th>{range ? 'Focus, from the lens' : 'Focus, from the near edge'}</th>
              <th>Sharp from</th>
              <th>to</th>
            </tr>
          </thead>
          <tbody>
            {plan.frames.slice(0, MOST_ROWS).map((frame) => (
              <tr key={frame.index}>
                <td>{frame.index}</td>
                <td>{range ? distance(frame.scaleDistance_mm!) : `${frame.travel_mm!.toFixed(3)} mm`}</td>
                {dial && <td>{dialText(dialAt(frame.travel_mm!, dial))}</td>}
                <td>{range ? distance(frame.focusDistance_mm!) : fixed(frame.position_mm!)}</td>
                <td>{range ? distance(frame.near_mm) : fixed(frame.near_mm)}</td>
                <td>{range ? distance(frame.far_mm) : fixed(frame.far_mm)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  )
}

const fixed = (mm: number) => `${mm.toFixed(2).replace('-', '−')} mm`

const dialText = ({ turns, marks }: { turns: number; marks: number }) => `turn ${turns}, mark ${marks}`

function saveText(name: string, text: string): void {
  const address = URL.createObjectURL(new Blob([text], { type: 'text/plain' }))
  const link = Object.assign(document.createElement('a'), { href: address, download: name })
  link.click()
  URL.revokeObjectURL(address)
}
