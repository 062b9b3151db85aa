'use client'

import { useMemo, type KeyboardEvent, type MouseEvent } from 'react'
import type { Plan, PlannedFrame, PlanRequest } from '@/core/plan'
import { depthCss, rampPlace } from '@/core/ramp'
import { useUnits } from '../units'
import { axisOf, INSET, subjectEnds } from './axis'
import { placeLabels } from './labels'
import { Slices } from './Slices'
import { useWidth } from './useWidth'
import styles from './ribbon.module.css'

interface Props {
  plan: Plan
  request: PlanRequest
  /** Planned frame that every view shows, 0-based. */
  selected?: number
  onSelect?: (index: number) => void
  /** How many of the planned frames are captured. */
  captured?: number
  /** Frames as really taken, wherever they lie; instead of `captured`. */
  taken?: PlannedFrame[]
  /** Pairs of neighbours with a gap between them. */
  gaps?: [PlannedFrame, PlannedFrame][]
  /** How much each frame shows in the fused picture, in percent. */
  shares?: number[]
  /** Named places that must be sharp. */
  pins?: { name: string; at_mm: number; sharp: boolean }[]
  /** On the grey table instead of on paper. */
  dark?: boolean
}

const HEIGHT = { pin: 16, subject: 12, slices: 30, shares: 22, ruler: 24 }

/** The depth ribbon: subject, slices, frames and what they gave, to scale along the optical axis, near to far. */
export function DepthRibbon({ plan, request, selected, onSelect, captured = 0, taken, gaps = [], shares, pins = [], dark }: Props) {
  const [frame, width] = useWidth()
  const { system } = useUnits()
  const axis = useMemo(() => axisOf(plan, request, Math.max(100, width - 2 * INSET), system), [plan, request, width, system])
  const count = plan.frames.length
  const subject = subjectEnds(request)
  const names = pins.map(({ name, at_mm, sharp }) => ({ at: axis.x(at_mm), text: sharp ? name : `${name}: not sharp` }))
  const labels = placeLabels(names, width - 2 * INSET)
  const top = pins.length > 0 ? 4 + HEIGHT.pin * (1 + Math.max(...labels.map(({ row }) => row))) : 0
  const sliceTop = top + HEIGHT.subject + 4
  const sharesTop = sliceTop + HEIGHT.slices + 4
  const rulerTop = sharesTop + (shares ? HEIGHT.shares + 2 : 0)

  const onKey = (event: KeyboardEvent) => {
    const step = { ArrowRight: 1, ArrowLeft: -1 }[event.key]
    if (!step || !onSelect) return
    event.preventDefault()
    onSelect(Math.min(count - 1, Math.max(0, (selected ?? (step > 0 ? -1 : count)) + step)))
  }
  const onPick = (event: MouseEvent<SVGSVGElement>) => {
    const at = event.clientX - event.currentTarget.getBoundingClientRect().left - INSET
    onSelect?.(nearestSlice(plan.frames, axis.x, at))
  }

  return (
    <div ref={frame} className={dark ? styles.dark : styles.paper}>
      <svg
        width="100%"
        height={rulerTop + HEIGHT.ruler}
        tabIndex={onSelect ? 0 : undefined}
        onKeyDown={onKey}
        onClick={onSelect && onPick}
        className={onSelect && styles.pick}
        role="group"
        aria-label={`Depth ribbon: ${count} ${count === 1 ? 'slice' : 'slices'} from near to far`}
      >
        <g transform={`translate(${INSET} 0)`}>
          <rect
            className={styles.subject}
            x={axis.x(subject.near)}
            width={Math.max(2, axis.x(subject.far) - axis.x(subject.near))}
            y={top + 2}
            height={HEIGHT.subject - 4}
          />
          <Slices frames={plan.frames} x={axis.x} top={sliceTop} height={HEIGHT.slices} captured={captured} taken={taken} selected={selected} />
          {shares && <Shares plan={plan} x={axis.x} top={sharesTop} shares={shares} />}
          {(taken ?? plan.frames.slice(0, captured)).map(({ near_mm, far_mm }, k) => {
            const at = (axis.x(near_mm) + axis.x(far_mm)) / 2
            return <line key={k} className={styles.tick} x1={at} x2={at} y1={rulerTop - 3} y2={rulerTop + 4} />
          })}
          {gaps.map(([a, b], k) => {
            const [from, to] = [Math.min(axis.x(a.far_mm), axis.x(b.far_mm)), Math.max(axis.x(a.near_mm), axis.x(b.near_mm))]
            return (
              <rect key={k} className={styles.gap} x={from} width={Math.max(3, to - from)} y={sliceTop - 3} height={HEIGHT.slices + 6} data-gap />
            )
          })}
          {names.map(({ at, text }, k) => {
            const base = top - 6 - labels[k].row * HEIGHT.pin
            return (
              <g key={k}>
                <path
                  className={styles.pin}
                  d={`M ${at} ${base + 3} V ${sliceTop + HEIGHT.slices}`}
                  strokeDasharray={pins[k].sharp ? undefined : '2 3'}
                />
                <text className={styles.label} x={labels[k].at} y={base}>
                  {text}
                </text>
              </g>
            )
          })}
          <line className={styles.rule} x1={0} x2={width - 2 * INSET} y1={rulerTop} y2={rulerTop} />
          {axis.ticks.map(({ at, label }) => (
            <g key={label} transform={`translate(${at} ${rulerTop})`}>
              <line className={styles.rule} y2={5} />
              <text className={styles.label} y={18}>
                {label}
              </text>
            </g>
          ))}
        </g>
      </svg>
      <div className={styles.ends}>
        <span>near · camera side</span>
        <span>
          {axis.unit} from the {request.subject.kind === 'depth' ? 'near edge' : request.subject.from}
        </span>
        <span>far</span>
      </div>
    </div>
  )
}

/** How much of the fused picture each frame shows. */
function Shares({ plan: { frames }, x, top, shares }: { plan: Plan; x: (mm: number) => number; top: number; shares: number[] }) {
  const most = Math.max(1, ...shares)
  return frames.map(({ near_mm, far_mm }, k) => {
    const height = (HEIGHT.shares * (shares[k] ?? 0)) / most
    return (
      <rect
        key={k}
        x={(x(near_mm) + x(far_mm)) / 2 - 2.5}
        width={5}
        y={top + HEIGHT.shares - height}
        height={height}
        fill={depthCss(rampPlace(k, frames.length))}
      />
    )
  })
}

/** The slice whose middle is drawn nearest to a place. */
function nearestSlice(frames: Plan['frames'], x: (mm: number) => number, at: number): number {
  const away = frames.map(({ near_mm, far_mm }) => Math.abs((x(near_mm) + x(far_mm)) / 2 - at))
  return away.indexOf(Math.min(...away))
}
