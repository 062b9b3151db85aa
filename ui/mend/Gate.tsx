'use client'

import { Slider } from 'antd'
import { depthCss } from '@/core/ramp'
import { LEAST_hole_px, type Hole } from './hole'
import styles from './mend.module.css'

/** Depths between which the porthole may touch the picture: 0 the nearest frame, 1 the farthest. */
export interface DepthGate {
  near: number
  far: number
}

export const OPEN: DepthGate = { near: 0, far: 1 }
export const isOpen = ({ near, far }: DepthGate) => near <= 0 && far >= 1

const STOPS = [0, 0.25, 0.5, 0.75, 1].map((depth) => `${depthCss(depth)} ${100 * depth}%`).join(', ')

/** Seen on the dark. */
const RAIL = { rail: { background: '#9a9a9a' }, track: { background: '#f4f4f4' } }

/** Size and softness of the porthole by hand, where there is no wheel. */
export function HoleSize({ hole, onHole }: { hole: Hole; onHole: (hole: Hole) => void }) {
  return (
    <div className={`${styles.gate} ${styles.bySlider}`} role="group" aria-label="The porthole">
      <span>
        {Math.round(2 * hole.radius_px)} px wide, rim {Math.round(100 * hole.softness)} % soft
      </span>
      <span className={styles.sizes}>
        <Slider
          min={LEAST_hole_px}
          max={200}
          value={Math.min(200, hole.radius_px)}
          onChange={(radius_px) => onHole({ ...hole, radius_px })}
          ariaLabelForHandle="Size of the porthole"
          styles={RAIL}
          tooltip={{ open: false }}
        />
        <Slider
          min={0}
          max={1}
          step={0.05}
          value={hole.softness}
          onChange={(softness) => onHole({ ...hole, softness })}
          ariaLabelForHandle="Softness of its rim"
          styles={RAIL}
          tooltip={{ open: false }}
        />
      </span>
    </div>
  )
}

/** Two handles on the ribbon of depth: what lies nearer or farther is not painted. */
export function Gate({ gate, count, onGate }: { gate: DepthGate; count: number; onGate: (gate: DepthGate) => void }) {
  const steps = Math.max(1, count - 1) * 2
  const slice = (step: number) => `slice ${(step / 2 + 1).toFixed(step % 2)}`
  return (
    <div className={styles.gate} role="group" aria-label="Depths that the porthole may touch">
      <span>
        {isOpen(gate) ? 'Paints at every depth' : `Paints from ${slice(Math.round(gate.near * steps))} to ${slice(Math.round(gate.far * steps))}`}
      </span>
      <Slider
        range
        min={0}
        max={steps}
        value={[Math.round(gate.near * steps), Math.round(gate.far * steps)]}
        onChange={([near, far]) => onGate({ near: near / steps, far: far / steps })}
        ariaLabelForHandle={['Nearest depth that is painted', 'Farthest depth that is painted']}
        tooltip={{ formatter: (step) => slice(step ?? 0) }}
        styles={{
          rail: { background: `linear-gradient(to right, ${STOPS})`, height: 8 },
          track: { background: 'rgb(255 255 255 / 45%)', height: 8 },
        }}
      />
    </div>
  )
}
