'use client'

import { useEffect, useMemo, useRef, useState, type KeyboardEvent } from 'react'
import { fromSensor_mm } from '@/core/optics'
import type { Plan, PlanRequest } from '@/core/plan'
import { depthCss, rampPlace } from '@/core/ramp'
import { dioptreScale, evenScale, type AxisScale } from './scale'
import styles from './ribbon.module.css'

interface Props {
  plan: Plan
  request: PlanRequest
  /** Planned frame that every view shows, 0-based. */
  selected?: number
  onSelect?: (index: number) => void
  /** How many of the planned frames are captured. */
  captured?: number
  /** How much each frame shows in the fused picture, in percent. */
  shares?: number[]
  /** On the grey table instead of on paper. */
  dark?: boolean
}

const HEIGHT = { subject: 12, slices: 30, shares: 22, ruler: 24 }
const INSET = 18

/** The depth ribbon: subject, slices, frames and what they gave, to scale along the optical axis, near to far. */
export function DepthRibbon({ plan, request, selected, onSelect, captured = 0, shares, dark }: Props) {
  const [frame, width] = useWidth()
  const axis = useMemo(() => axisOf(plan, request, Math.max(100, width - 2 * INSET)), [plan, request, width])
  const count = plan.frames.length
  const subject = subjectEnds(request)
  const sliceTop = HEIGHT.subject + 4
  const sharesTop = sliceTop + HEIGHT.slices + 4
  const rulerTop = sharesTop + (shares ? HEIGHT.shares + 2 : 0)
  const most = Math.max(1, ...(shares ?? []))

  const onKey = (event: KeyboardEvent) => {
    const step = { ArrowRight: 1, ArrowLeft: -1 }[event.key]
    if (!step || !onSelect) return
    event.preventDefault()
    onSelect(Math.min(count - 1, Math.max(0, (selected ?? (step > 0 ? -1 : count)) + step)))
  }

  return (
    <div ref={frame} className={dark ? styles.dark : styles.paper}>
      <svg
        width="100%"
        height={rulerTop + HEIGHT.ruler}
        tabIndex={onSelect ? 0 : undefined}
        onKeyDown={onKey}
        role="group"
        aria-label={`Depth ribbon: ${count} ${count === 1 ? 'slice' : 'slices'} from near to far`}
      >
        <g transform={`translate(${INSET} 0)`}>
          <rect
            className={styles.subject}
            x={axis.x(subject.near)}
            width={Math.max(2, axis.x(subject.far) - axis.x(subject.near))}
            y={2}
            height={HEIGHT.subject - 4}
          />
          {plan.frames.map(({ near_mm, far_mm }, k) => {
            const left = axis.x(near_mm)
            const right = axis.x(far_mm)
            // Two rows, so that the overlap of neighbours is seen.
            const y = sliceTop + (k % 2) * (HEIGHT.slices / 3)
            return (
              <g key={k} onClick={onSelect && (() => onSelect(k))} className={onSelect && styles.pick} data-slice={k}>
                <rect
                  x={left}
                  width={Math.max(1, right - left - (count > 60 ? 0 : 0.5))}
                  y={y}
                  height={(2 * HEIGHT.slices) / 3}
                  fill={depthCss(rampPlace(k, count))}
                  fillOpacity={captured > 0 && k >= captured ? 0.3 : 0.9}
                  className={k === selected ? styles.chosen : styles.slice}
                />
                {shares && (
                  <rect
                    x={(left + right) / 2 - 2.5}
                    width={5}
                    y={sharesTop + HEIGHT.shares * (1 - (shares[k] ?? 0) / most)}
                    height={(HEIGHT.shares * (shares[k] ?? 0)) / most}
                    fill={depthCss(rampPlace(k, count))}
                  />
                )}
                {k < captured && <line className={styles.tick} x1={(left + right) / 2} x2={(left + right) / 2} y1={rulerTop - 3} y2={rulerTop + 4} />}
                {onSelect && <rect x={left} width={Math.max(3, right - left)} y={0} height={rulerTop} fill="transparent" />}
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
        <span>{axis.unit === 'mm' ? 'mm from the near edge' : 'metres from the lens'}</span>
        <span>far</span>
      </div>
    </div>
  )
}

/** Both ends of the subject in the coordinates of the slices: from the near edge, or from the lens. */
function subjectEnds({ subject, optics }: PlanRequest): { near: number; far: number } {
  if (subject.kind === 'depth') return { near: 0, far: subject.depth_mm }
  if (subject.from === 'lens' || optics.kind !== 'lens') return { near: subject.near_mm, far: subject.far_mm }
  return { near: fromSensor_mm(subject.near_mm, optics.focalLength_mm), far: fromSensor_mm(subject.far_mm, optics.focalLength_mm) }
}

function axisOf({ frames }: Plan, request: PlanRequest, width: number): AxisScale {
  const subject = subjectEnds(request)
  const near = Math.min(subject.near, frames[0].near_mm)
  const far = Math.max(subject.far, frames.at(-1)!.far_mm)
  if (request.subject.kind === 'range') return dioptreScale(near, far, width)
  const margin = (far - near) * 0.02
  return evenScale(near - margin, far + margin, width)
}

function useWidth() {
  const frame = useRef<HTMLDivElement>(null)
  const [width, setWidth] = useState(900)
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => setWidth(entry.contentRect.width))
    if (frame.current) observer.observe(frame.current)
    return () => observer.disconnect()
  }, [])
  return [frame, width] as const
}
