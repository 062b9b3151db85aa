import { useId } from 'react'
import type { PlannedFrame } from '@/core/plan'
import { depthCss, rampPlace } from '@/core/ramp'
import styles from './ribbon.module.css'

interface Props {
  frames: PlannedFrame[]
  /** Place in the drawing of a depth. */
  x: (mm: number) => number
  top: number
  height: number
  /** How many are captured; the others are paler once some are. */
  captured: number
  /** Frames as really taken: a slice whose middle one of them holds is captured. */
  taken?: PlannedFrame[]
  selected?: number
}

/** More slices than this are drawn as two outlines for all: their edges can no longer be told apart, and drawing stays quick. */
const MOST_SINGLE = 120

/** One band a slice, in two rows so that the overlap of neighbours is seen. */
export function Slices(props: Props) {
  return props.frames.length > MOST_SINGLE ? <FineSlices {...props} /> : props.frames.map((_, k) => <Band key={k} index={k} {...props} />)
}

function Band({ index, frames, x, top, height, captured, taken, selected }: Props & { index: number }) {
  const { left, width, y } = bandAt(index, { frames, x, top, height })
  const count = frames.length
  return (
    <rect
      data-slice={index}
      x={left}
      width={Math.max(1, width - (count > 60 ? 0 : 0.5))}
      y={y}
      height={(2 * height) / 3}
      fill={depthCss(rampPlace(index, count))}
      fillOpacity={(taken ? taken.length > 0 && !held(frames[index], taken) : captured > 0 && index >= captured) ? 0.3 : 0.9}
      className={index === selected ? styles.chosen : styles.slice}
    />
  )
}

/** The ramp as stops of a gradient along the drawing. */
const STOPS = Array.from({ length: 17 }, (_, k) => k / 16)

function FineSlices(props: Props) {
  const { frames, captured, selected } = props
  const id = useId()
  const [first, last] = [bandAt(0, props), bandAt(frames.length - 1, props)]
  const outline = (from: number, to: number, row: number) => {
    const parts = []
    for (let k = from + ((from + row) % 2); k < to; k += 2) {
      const { left, width, y } = bandAt(k, props)
      parts.push(`M${left.toFixed(2)} ${y}h${width.toFixed(2)}v${(2 * props.height) / 3}h${(-width).toFixed(2)}z`)
    }
    return parts.join('')
  }
  const ends = captured > 0 ? captured : frames.length
  return (
    <>
      <linearGradient id={id} gradientUnits="userSpaceOnUse" x1={first.left + first.width / 2} x2={last.left + last.width / 2} y1={0} y2={0}>
        {STOPS.map((place) => (
          <stop key={place} offset={place} stopColor={depthCss(place)} />
        ))}
      </linearGradient>
      {[0, 1].map((row) => (
        <g key={row} fill={`url(#${id})`}>
          <path d={outline(0, ends, row)} fillOpacity={0.9} />
          {ends < frames.length && <path d={outline(ends, frames.length, row)} fillOpacity={0.3} />}
        </g>
      ))}
      {selected !== undefined && <Band index={selected} {...props} />}
    </>
  )
}

function held({ near_mm, far_mm }: PlannedFrame, taken: PlannedFrame[]): boolean {
  // A slice without end is held where its beginning is.
  const middle = far_mm === Infinity ? 2 * near_mm : (near_mm + far_mm) / 2
  return taken.some((frame) => frame.near_mm <= middle && frame.far_mm >= middle)
}

function bandAt(index: number, { frames, x, top, height }: Pick<Props, 'frames' | 'x' | 'top' | 'height'>) {
  const left = x(frames[index].near_mm)
  return { left, width: Math.max(1, x(frames[index].far_mm) - left), y: top + (index % 2) * (height / 3) }
}
