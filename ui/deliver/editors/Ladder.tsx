import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react'
import type { EditorProps } from './editor'
import styles from '../deliver.module.css'

const [WIDE, HIGH] = [260, 210]
/** Stops below white that are shown. */
const RANGE = 10
/** Room above white, for the first rung's number. */
const TOP = 1
/** Rungs stay so far apart, in stops. */
const APART = 0.2

const heightOf = (stops: number) => (-stops / RANGE) * HIGH

/** The rungs with one of them moved, between its neighbours. */
export function movedRung(points: [number, number][], k: number, to: number): [number, number][] {
  const above = points[k + 1]?.[1] ?? 0.5 + APART
  const below = points[k - 1]?.[1] ?? -RANGE - APART
  const held = Math.min(above - APART, Math.max(below + APART, to))
  return points.map((point, n) => (n === k ? [point[0], Number(held.toFixed(2))] : point))
}

/**
 * The ladder: light in stops from white, at the left as the picture has it, with how much there is of each, at the right as it becomes.
 * Rungs lead across; their right ends are dragged up for lighter and down for darker, or moved by the arrow keys.
 */
export function Ladder({ step, onStep, light = [] }: EditorProps<'tones'>) {
  const svg = useRef<SVGSVGElement>(null)
  const [held, setHeld] = useState<number>()
  const points = [...step.points].sort(([a], [b]) => a - b)
  const move = (k: number, to: number) => onStep({ ...step, points: movedRung(points, k, to) }, `rung ${k}`)
  const onMove = ({ clientY }: PointerEvent) => {
    if (held === undefined) return
    const { top, height } = svg.current!.getBoundingClientRect()
    move(held, -((clientY - top) / height) * (RANGE + TOP + 0.5) + TOP)
  }
  const onKey = (k: number) => (event: KeyboardEvent) => {
    const by = { ArrowUp: 0.1, ArrowDown: -0.1 }[event.key]
    if (!by) return
    event.preventDefault()
    move(k, points[k][1] + by)
  }
  return (
    <>
      <p>Drag a rung up for lighter, down for darker. Numbers are stops below white.</p>
      <svg
        ref={svg}
        className={styles.ladder}
        viewBox={`-4 ${heightOf(TOP)} ${WIDE + 14} ${(HIGH * (RANGE + TOP + 0.5)) / RANGE}`}
        onPointerMove={onMove}
        onPointerUp={() => setHeld(undefined)}
        onPointerLeave={() => setHeld(undefined)}
      >
        {light.map((part, k) => {
          const stops = (k + 1 - light.length) / 2
          return <rect key={k} x={0} y={heightOf(stops)} width={part * 90} height={HIGH / RANGE / 2} className={styles.howMuch} />
        })}
        {points.map(([from, to], k) => (
          <g key={k}>
            <line x1={0} x2={100} y1={heightOf(from)} y2={heightOf(from)} className={styles.rungFrom} />
            <line x1={100} x2={190} y1={heightOf(from)} y2={heightOf(to)} className={styles.rungFrom} />
            <line
              x1={190}
              x2={WIDE}
              y1={heightOf(to)}
              y2={heightOf(to)}
              className={styles.rung}
              role="slider"
              tabIndex={0}
              aria-label={`Tones ${-from} stops below white`}
              aria-valuenow={to}
              aria-valuemin={-RANGE}
              aria-valuemax={0.5}
              aria-valuetext={`${-to} stops below white`}
              onPointerDown={(event) => {
                event.preventDefault()
                svg.current!.setPointerCapture(event.pointerId)
                setHeld(k)
              }}
              onKeyDown={onKey(k)}
            />
            <text x={WIDE} y={heightOf(to) - 4} textAnchor="end">
              {Math.abs(to - from) < 0.05 ? `${-from}` : `${to > from ? '+' : '−'}${Math.abs(to - from).toFixed(1)}`}
            </text>
          </g>
        ))}
      </svg>
      <button type="button" onClick={() => onStep({ ...step, points: points.map(([from]) => [from, from]) })}>
        Straighten the ladder
      </button>
    </>
  )
}
