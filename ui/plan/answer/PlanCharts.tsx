'use client'

import { memo, useMemo } from 'react'
import { CartesianGrid, Line, LineChart, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts'
import { apertureAdvice, blurThrough, withLongSteps } from '@/core/plan'
import type { SheetPlan } from '@/core/sheet'
import { significant } from '@/core/units'
import { axisOf } from '../../ribbon'
import { COLOURS } from '../../theme'
import { useUnits } from '../../units'
import styles from './answer.module.css'

const AXIS = { stroke: COLOURS.quiet, fontSize: 13, tickLine: false }
const LINE = { dot: false, isAnimationActive: false, strokeWidth: 2 } as const
/** How much too long a step may come out, to show what overlap is for. */
const LONG_STEPS = 0.2
const PLACES = 1000
const µm = (mm: number) => mm * 1000
const inMicrometres = (value: unknown) => `${significant(Number(value), 3)} µm`

/** How blur goes with the aperture, and with depth through the series; the allowed blur is the line to stay below. */
export const PlanCharts = memo(function PlanCharts({ planned }: { planned: SheetPlan }) {
  return (
    <div className={styles.charts}>
      {planned.request.optics.kind === 'lens' && <ApertureChart planned={planned} />}
      <ThroughChart planned={planned} />
    </div>
  )
})

function ApertureChart({ planned: { request, gear } }: { planned: SheetPlan }) {
  const { lens } = gear
  const advice = useMemo(() => apertureAdvice(request, lens.widestFNumber, lens.smallestFNumber), [request, lens])
  const data = advice.points.map(({ fNumber, centre_mm, edge_mm, oneFrame_mm }) => ({
    fNumber,
    centre: µm(centre_mm),
    edge: µm(edge_mm),
    // Far off the scale it says nothing more than "far off".
    one: oneFrame_mm > 4 * advice.coc_mm ? undefined : µm(oneFrame_mm),
  }))
  const sharpest = nearest(
    advice.points.map(({ fNumber }) => fNumber),
    lens.sharpestFNumber,
  )
  return (
    <figure className={styles.chart}>
      <figcaption>
        <strong>Aperture</strong> {advice.reason.text}
      </figcaption>
      <ResponsiveContainer width="100%" height={230}>
        <LineChart data={data} margin={{ top: 8, right: 12, bottom: 4, left: 0 }}>
          <CartesianGrid stroke={COLOURS.rule} vertical={false} />
          <XAxis dataKey="fNumber" {...AXIS} tickFormatter={(value) => `f/${value}`} interval="preserveStartEnd" minTickGap={22} />
          <YAxis {...AXIS} width={58} unit=" µm" />
          <Tooltip formatter={inMicrometres} labelFormatter={(value) => `f/${value}`} />
          <ReferenceLine y={µm(advice.coc_mm)} stroke={COLOURS.ink} strokeDasharray="5 4" />
          {sharpest && sharpest !== advice.recommended && (
            <ReferenceLine
              x={sharpest}
              stroke={COLOURS.quiet}
              strokeDasharray="1 3"
              label={{ value: 'lens sharpest', fill: COLOURS.quiet, fontSize: 13, position: 'insideTop' }}
            />
          )}
          {advice.recommended && (
            <ReferenceLine
              x={advice.recommended}
              stroke={COLOURS.accent}
              label={{
                value: sharpest === advice.recommended ? 'use this; lens sharpest' : 'use this',
                fill: COLOURS.accent,
                fontSize: 13,
                position: 'insideTopRight',
                dy: 16,
              }}
            />
          )}
          <Line name="slice centre" dataKey="centre" stroke={COLOURS.accent} {...LINE} />
          <Line name="slice edge" dataKey="edge" stroke={COLOURS.quiet} {...LINE} />
          <Line name="one frame for all" dataKey="one" stroke={COLOURS.alarm} strokeDasharray="2 3" {...LINE} />
        </LineChart>
      </ResponsiveContainer>
      <p className={styles.key}>
        <span style={{ borderColor: COLOURS.accent }}>slice centre</span>
        <span style={{ borderColor: COLOURS.quiet }}>slice edge</span>
        <span style={{ borderColor: COLOURS.alarm, borderStyle: 'dotted' }}>one frame for all</span>
        <span style={{ borderColor: COLOURS.ink, borderStyle: 'dashed' }}>allowed</span>
      </p>
    </figure>
  )
}

function ThroughChart({ planned: { plan, request } }: { planned: SheetPlan }) {
  const { system, length } = useUnits()
  const axis = useMemo(() => axisOf(plan, request, PLACES, system), [plan, request, system])
  const { data, worst, worstLong } = useMemo(() => {
    const samples = Math.min(900, Math.max(240, plan.frameCount * 10))
    const series = blurThrough(plan, request, samples)
    const long = new Map(blurThrough(withLongSteps(plan, LONG_STEPS), request, samples).map(({ depth_mm, blur_mm }) => [axis.x(depth_mm), blur_mm]))
    const subject = series.filter(({ depth_mm }) => inSubject(depth_mm, request.subject))
    const places = [
      ...series.map(({ depth_mm, blur_mm }) => ({ at: axis.x(depth_mm), blur: µm(blur_mm) })),
      ...[...long].map(([at, blur_mm]) => ({ at, long: µm(blur_mm) })),
    ]
    return {
      data: places.sort((a, b) => a.at - b.at),
      worst: Math.max(...subject.map(({ blur_mm }) => blur_mm)),
      worstLong: Math.max(...[...long.values()].slice(1, -1)),
    }
  }, [plan, request, axis])
  const parts = worstLong > plan.coc_mm * 1.02
  return (
    <figure className={styles.chart}>
      <figcaption>
        <strong>Through the series</strong> At worst {length(worst)} of {length(plan.coc_mm)} allowed.{' '}
        {parts
          ? 'If every step came out a fifth too long, gaps would open between slices. Plan with more overlap.'
          : 'Even if every step came out a fifth too long, no gap would open. The overlap is enough.'}
      </figcaption>
      <ResponsiveContainer width="100%" height={230}>
        <LineChart data={data} margin={{ top: 8, right: 12, bottom: 4, left: 0 }}>
          <CartesianGrid stroke={COLOURS.rule} vertical={false} />
          <XAxis
            dataKey="at"
            type="number"
            domain={[0, PLACES]}
            ticks={axis.ticks.map(({ at }) => at)}
            tickFormatter={(at) => axis.ticks.find((tick) => tick.at === at)?.label ?? ''}
            {...AXIS}
            minTickGap={16}
          />
          <YAxis {...AXIS} width={58} unit=" µm" domain={[0, 'auto']} />
          <Tooltip formatter={inMicrometres} labelFormatter={() => 'blur on the sensor'} />
          <ReferenceLine y={µm(plan.coc_mm)} stroke={COLOURS.ink} strokeDasharray="5 4" ifOverflow="extendDomain" />
          <Line name="steps a fifth too long" dataKey="long" stroke={COLOURS.alarm} strokeDasharray="2 3" connectNulls {...LINE} strokeWidth={1.5} />
          <Line name="as planned" dataKey="blur" stroke={COLOURS.accent} connectNulls {...LINE} strokeWidth={1.5} />
        </LineChart>
      </ResponsiveContainer>
      <p className={styles.key}>
        <span style={{ borderColor: COLOURS.accent }}>as planned</span>
        <span style={{ borderColor: COLOURS.alarm, borderStyle: 'dotted' }}>every step a fifth too long</span>
        <span style={{ borderColor: COLOURS.ink, borderStyle: 'dashed' }}>allowed</span>
        <span className={styles.plainKey}>{axis.unit} along the axis</span>
      </p>
    </figure>
  )
}

function inSubject(depth_mm: number, subject: SheetPlan['request']['subject']): boolean {
  return subject.kind === 'range' || (depth_mm >= 0 && depth_mm <= subject.depth_mm)
}

function nearest(values: number[], wanted?: number): number | undefined {
  if (wanted === undefined || values.length === 0) return undefined
  return values.reduce((a, b) => (Math.abs(b - wanted) < Math.abs(a - wanted) ? b : a))
}
