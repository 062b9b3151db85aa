'use client'

import { CartesianGrid, Line, LineChart, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis, type DotItemDotProps } from 'recharts'
import { motionTrend } from '@/core/register'
import type { FuseReport } from '@/schemas'
import { significant } from '@/core/units'
import type { NamedFrame } from '../namedFrames'
import styles from './result.module.css'

interface Props {
  report: FuseReport
  frames: NamedFrame[]
  selected?: number
  onSelect: (index: number) => void
}

const LINES = [
  { key: 'dx_px', label: 'across', dash: '' },
  { key: 'dy_px', label: 'down', dash: '5 3' },
] as const

/** How each frame lay against the reference, as registration found it: shifts, and breathing; what stands out is marked. */
export function Motion({ report, frames, selected, onSelect }: Props) {
  const number = (index: number) => frames[index].number
  const used = report.frames.flatMap((frame, index) => (frame.role === 'left out' ? [] : [{ ...frame, index }]))
  const trend = motionTrend(used, report.crop.width / 2).map((point, k) => ({ ...point, frame: used[k].index + 1 }))
  const out = trend.filter(({ outlier }) => outlier).map(({ frame }) => number(frame - 1))
  const left = report.frames.flatMap(({ role }, k) => (role === 'left out' ? [number(k)] : []))
  const pick = ({ activeLabel }: { activeLabel?: string | number }) => activeLabel !== undefined && onSelect(Number(activeLabel) - 1)
  const dot = ({ cx, cy, index, key }: DotItemDotProps) =>
    trend[index!]?.outlier ? <path key={key} d={`M${cx! - 5},${cy! + 4}h10l-5,-9z`} fill="#f4f4f4" /> : <g key={key} />
  const axis = { stroke: '#bdbdbd', tick: { fill: '#e4e4e4', fontSize: 12 } }
  return (
    <section aria-label="Motion" className={styles.motion}>
      <h2>How the frames moved</h2>
      <p className={styles.legend}>
        Shift in px: <b>—</b> across, <b>- -</b> down
      </p>
      <ResponsiveContainer width="100%" height={120}>
        <LineChart data={trend} onClick={pick} margin={{ top: 6, right: 8, bottom: 0, left: -18 }} title="Shift of each frame, in px">
          <CartesianGrid stroke="#6a6a6a" vertical={false} />
          <XAxis
            dataKey="frame"
            type="number"
            domain={[1, report.frames.length]}
            allowDecimals={false}
            tickFormatter={(frame) => String(number(frame - 1))}
            {...axis}
          />
          <YAxis {...axis} width={52} />
          {selected !== undefined && <ReferenceLine x={selected + 1} stroke="#f4f4f4" />}
          <Tooltip
            contentStyle={{ background: '#333', border: 0 }}
            labelFormatter={(frame) => `frame ${number(Number(frame) - 1)}, ${frames[Number(frame) - 1].file}`}
            formatter={(v) => `${significant(Number(v), 3)} px`}
          />
          {LINES.map(({ key, label, dash }) => (
            <Line
              key={key}
              dataKey={key}
              name={label}
              stroke="#e4e4e4"
              strokeDasharray={dash}
              strokeWidth={1.5}
              dot={dot}
              isAnimationActive={false}
            />
          ))}
        </LineChart>
      </ResponsiveContainer>
      <p className={styles.legend}>Scale compared with the reference, in %</p>
      <ResponsiveContainer width="100%" height={80}>
        <LineChart data={trend} onClick={pick} margin={{ top: 6, right: 8, bottom: 0, left: -18 }} title="Scale of each frame, in percent">
          <CartesianGrid stroke="#6a6a6a" vertical={false} />
          <XAxis dataKey="frame" type="number" domain={[1, report.frames.length]} hide />
          <YAxis {...axis} width={52} />
          {selected !== undefined && <ReferenceLine x={selected + 1} stroke="#f4f4f4" />}
          <Line dataKey="scale_percent" stroke="#e4e4e4" strokeWidth={1.5} dot={false} isAnimationActive={false} />
        </LineChart>
      </ResponsiveContainer>
      {out.length > 0 && (
        <p>
          ▲ {out.length === 1 ? 'Frame' : 'Frames'} {out.join(', ')} {out.length === 1 ? 'lies' : 'lie'} off the line the others follow. Something
          moved there: look for doubled edges.
        </p>
      )}
      {left.length > 0 && (
        <p>
          ▲ Left out: {left.length === 1 ? 'frame' : 'frames'} {left.join(', ')}, they do not belong to this series.
        </p>
      )}
    </section>
  )
}
