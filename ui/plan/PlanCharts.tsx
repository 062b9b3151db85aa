'use client'

import { useMemo } from 'react'
import { CartesianGrid, Line, LineChart, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts'
import { apertureAdvice, blurThrough, type Plan, type PlanRequest } from '@/core/plan'
import { LENSES } from '@/demo/kit'
import { COLOURS } from '../theme'
import { significant } from '../units'
import styles from './plan.module.css'

const AXIS = { stroke: COLOURS.quiet, fontSize: 13, tickLine: false }
const µm = (mm: number) => mm * 1000
const inMicrometres = (value: unknown) => `${significant(Number(value), 3)} µm`

/** How blur goes with the aperture, and with depth through the series; the allowed blur is the line to stay below. */
export function PlanCharts({ plan, request }: { plan: Plan; request: PlanRequest }) {
  return (
    <div className={styles.charts}>
      {request.optics.kind === 'lens' && <ApertureChart request={request} />}
      {request.subject.kind === 'depth' && <ThroughChart plan={plan} request={request} />}
    </div>
  )
}

function ApertureChart({ request }: { request: PlanRequest }) {
  const { optics } = request
  const lens = LENSES.find(({ focalLength_mm }) => optics.kind === 'lens' && focalLength_mm === optics.focalLength_mm) ?? LENSES[0]
  const advice = useMemo(() => apertureAdvice(request, lens.widestFNumber, lens.smallestFNumber), [request, lens])
  const data = advice.points.map(({ fNumber, centre_mm, edge_mm, oneFrame_mm }) => ({
    fNumber,
    centre: µm(centre_mm),
    edge: µm(edge_mm),
    // Far off the scale it says nothing more than "far off".
    one: oneFrame_mm > 4 * advice.coc_mm ? undefined : µm(oneFrame_mm),
  }))
  return (
    <figure className={styles.chart}>
      <figcaption>
        <strong>Aperture</strong> {advice.reason}
      </figcaption>
      <ResponsiveContainer width="100%" height={210}>
        <LineChart data={data} margin={{ top: 8, right: 12, bottom: 4, left: 0 }}>
          <CartesianGrid stroke={COLOURS.rule} vertical={false} />
          <XAxis dataKey="fNumber" {...AXIS} tickFormatter={(value) => `f/${value}`} interval="preserveStartEnd" minTickGap={22} />
          <YAxis {...AXIS} width={58} unit=" µm" />
          <Tooltip formatter={inMicrometres} labelFormatter={(value) => `f/${value}`} />
          <ReferenceLine y={µm(advice.coc_mm)} stroke={COLOURS.ink} strokeDasharray="5 4" />
          {advice.recommended && (
            <ReferenceLine
              x={advice.recommended}
              stroke={COLOURS.accent}
              label={{ value: 'use this', fill: COLOURS.accent, fontSize: 13, position: 'insideTopRight' }}
            />
          )}
          <Line name="slice centre" dataKey="centre" stroke={COLOURS.accent} dot={false} strokeWidth={2} isAnimationActive={false} />
          <Line name="slice edge" dataKey="edge" stroke={COLOURS.quiet} dot={false} strokeWidth={2} isAnimationActive={false} />
          <Line
            name="one frame for all"
            dataKey="one"
            stroke={COLOURS.alarm}
            strokeDasharray="2 3"
            dot={false}
            strokeWidth={2}
            isAnimationActive={false}
          />
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

function ThroughChart({ plan, request }: { plan: Plan; request: PlanRequest }) {
  const data = useMemo(
    () => blurThrough(plan, request, 240).map(({ depth_mm, blur_mm }) => ({ depth: depth_mm, blur: µm(blur_mm) })),
    [plan, request],
  )
  const worst = Math.max(...data.map(({ blur }) => blur))
  return (
    <figure className={styles.chart}>
      <figcaption>
        <strong>Through the series</strong> The blur left at each depth, at worst {significant(worst, 3)} µm of {significant(µm(plan.coc_mm), 3)} µm
        allowed.
      </figcaption>
      <ResponsiveContainer width="100%" height={210}>
        <LineChart data={data} margin={{ top: 8, right: 12, bottom: 4, left: 0 }}>
          <CartesianGrid stroke={COLOURS.rule} vertical={false} />
          <XAxis
            dataKey="depth"
            type="number"
            domain={['dataMin', 'dataMax']}
            {...AXIS}
            tickFormatter={(value) => significant(Number(value), 2)}
            unit=" mm"
          />
          <YAxis {...AXIS} width={58} unit=" µm" domain={[0, 'auto']} />
          <Tooltip formatter={inMicrometres} labelFormatter={(value) => `${significant(Number(value), 3)} mm`} />
          <ReferenceLine y={µm(plan.coc_mm)} stroke={COLOURS.ink} strokeDasharray="5 4" ifOverflow="extendDomain" />
          <Line name="blur" dataKey="blur" stroke={COLOURS.accent} dot={false} strokeWidth={1.5} isAnimationActive={false} />
        </LineChart>
      </ResponsiveContainer>
    </figure>
  )
}
