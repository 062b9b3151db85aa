'use client'

import { useMemo } from 'react'
import { depthCss, rampPlace } from '@/core/ramp'
import type { PlanSheet, SheetPlan } from '@/core/sheet'
import type { UnitSystem } from '@/core/units'
import { axisOf, INSET, placeLabels, subjectEnds, useWidth } from '../../ribbon'
import { useUnits } from '../../units'
import { sideGeometry, type SideGeometry } from './sideGeometry'
import styles from './answer.module.css'

interface Props {
  planned: SheetPlan
  sheet: PlanSheet
  selected?: number
}

const HEIGHT = 132
const AXIS = 62

/** The plan from the side, to scale: camera, lens, working distance, subject and slices; below, it opens onto the ribbon. */
export function SideView({ planned, sheet, selected }: Props) {
  const [frame, width] = useWidth()
  const { length, system } = useUnits()
  const geometry = useMemo(() => sideGeometry(planned, sheet), [planned, sheet])
  const { body, lens, subject, slices, travel, targets, end, endless, pupil, sensorHeight } = geometry
  const perMm = Math.min((width - 8) / (end - body.from), (2 * (AXIS - 4)) / 130)
  const x = (mm: number) => 4 + (mm - body.from) * perMm
  const half = (mm: number) => Math.max(2, (mm * perMm) / 2)
  const opensOnto = useMemo(() => ribbonEnds(planned, width, system), [planned, width, system])
  const range = planned.plan.hyperfocal_mm !== undefined
  const subjectHalf = range ? 15 : half(subject.height)
  const free = subject.from - lens.to
  const box = (part: { from: number; to: number; height: number }, name: string) => (
    <rect
      className={name}
      x={x(part.from)}
      width={Math.max(1, (part.to - part.from) * perMm)}
      y={AXIS - half(part.height)}
      height={2 * half(part.height)}
      rx={1.5}
    />
  )
  const posts = targets.filter(({ at }) => at <= end).map(({ name, at }) => ({ text: name, at: x(at), post: true }))
  if (endless) posts.push({ text: 'on to ∞', at: x(end), post: false })
  const labels = placeLabels(posts, width)
  const sliceHalf = range ? 9 : subjectHalf
  const rows = slices.length > MOST_BANDS ? 1 : 2

  return (
    <div ref={frame} className={styles.side}>
      <svg width="100%" height={HEIGHT} role="img" aria-label={`Side view to scale: ${length(free)} between lens and subject`}>
        <line className={styles.axis} x1={x(0)} x2={x(end)} y1={AXIS} y2={AXIS} />
        {!range && (
          <path
            className={styles.cone}
            d={`M ${x(pupil)} ${AXIS} L ${x(subject.from)} ${AXIS - subjectHalf} M ${x(pupil)} ${AXIS} L ${x(subject.from)} ${AXIS + subjectHalf}`}
          />
        )}
        {travel * perMm > 1.5 && <g transform={`translate(${travel * perMm} 0)`}>{box(lens, styles.ghost)}</g>}
        {box(body, styles.camera)}
        {box(lens, styles.camera)}
        <line className={styles.sensor} x1={x(0)} x2={x(0)} y1={AXIS - half(sensorHeight)} y2={AXIS + half(sensorHeight)} />
        {merged(slices).map(({ from, to, place, first, last }, k) => (
          <rect
            key={k}
            x={x(from)}
            width={Math.max(0.6, (to - from) * perMm)}
            y={AXIS - sliceHalf + (k % rows) * sliceHalf}
            height={(2 * sliceHalf) / rows}
            fill={depthCss(place)}
            className={selected !== undefined && selected >= first && selected <= last ? styles.chosen : undefined}
          />
        ))}
        <rect
          className={styles.outline}
          x={x(subject.from)}
          width={Math.max(1.5, (subject.to - subject.from) * perMm)}
          y={AXIS - subjectHalf}
          height={2 * subjectHalf}
        />
        {posts.map(({ text, at, post }, k) => {
          const base = AXIS - 26 - labels[k].row * 14
          return (
            <g key={k}>
              {post && <line className={styles.post} x1={at} x2={at} y1={base + 4} y2={AXIS + 22} />}
              <text className={styles.postName} x={labels[k].at} y={base}>
                {text}
              </text>
            </g>
          )
        })}
        {!range && free * perMm > 70 && (
          <g className={styles.span}>
            <path
              d={`M ${x(lens.to) + 3} ${AXIS - 30} H ${x(subject.from) - 3} m -5 -3 l 5 3 l -5 3 M ${x(lens.to) + 8} ${AXIS - 33} l -5 3 l 5 3`}
            />
            <text x={(x(lens.to) + x(subject.from)) / 2} y={AXIS - 37}>
              about {length(free)} free
            </text>
          </g>
        )}
        <path
          className={styles.opens}
          d={`M ${x(subject.from)} ${AXIS + subjectHalf + 2} L ${opensOnto.near} ${HEIGHT} M ${Math.max(x(subject.from) + 1.5, x(subject.to))} ${AXIS + subjectHalf + 2} L ${opensOnto.far} ${HEIGHT}`}
        />
      </svg>
    </div>
  )
}

/** Both ends of the subject on the ribbon below, which is as wide as this view. */
function ribbonEnds({ plan, request }: SheetPlan, width: number, system: UnitSystem): { near: number; far: number } {
  const { x } = axisOf(plan, request, Math.max(100, width - 2 * INSET), system)
  const { near, far } = subjectEnds(request)
  return { near: x(near) + INSET, far: x(far) + INSET }
}

/** More bands than this are thinner than a line in this view; neighbours are drawn as one. */
const MOST_BANDS = 60

/** Slices as bands with their place on the ramp. */
function merged(slices: SideGeometry['slices']) {
  const each = Math.ceil(slices.length / MOST_BANDS)
  return Array.from({ length: Math.ceil(slices.length / each) }, (_, k) => {
    const first = k * each
    const last = Math.min(slices.length, first + each) - 1
    return { from: slices[first].from, to: slices[last].to, first, last, place: rampPlace((first + last) / 2, slices.length) }
  })
}
