'use client'

import { useQuery } from '@tanstack/react-query'
import { Bar, BarChart, CartesianGrid, Legend, Line, LineChart, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts'
import type { LogEntry } from '@/core/logbook'
import { dateText, significant } from '@/core/units'
import { fetchJson } from '../api'
import styles from './logbook.module.css'
import { seriesOf } from './series'

/** One run tells nothing of a trend. */
const FEWEST = 2
const AXIS = { stroke: '#5f5e5a', tick: { fill: '#3d3c39', fontSize: 12 } }
const MARGIN = { top: 8, right: 8, bottom: 0, left: -12 }

/** What the runs have in common over time: frames taken against needed, the stride against the plan, seconds a frame. */
export function OverTime() {
  const { data, error } = useQuery({ queryKey: ['logbook', 'all'], queryFn: () => fetchJson<LogEntry[]>('/api/logbook?as=json') })
  if (error) return <p role="alert">▲ {error.message}</p>
  const { frames, strides, times } = seriesOf(data ?? [])
  const label = (at: unknown) => (typeof at === 'string' ? dateText(at) : '')
  return (
    <div className={styles.charts}>
      <section aria-label="Frames taken and needed">
        <h2>Frames taken and needed</h2>
        {frames.length < FEWEST ? (
          <p className={styles.quiet}>It takes two runs. How many frames were needed stands beside them once you ask on the result.</p>
        ) : (
          <ResponsiveContainer width="100%" height={180}>
            <BarChart data={frames} margin={MARGIN} title="Frames taken and needed, run by run">
              <CartesianGrid stroke="#d9d7d1" vertical={false} />
              <XAxis dataKey="at" tickFormatter={label} {...AXIS} />
              <YAxis allowDecimals={false} {...AXIS} />
              <Tooltip labelFormatter={(at, [bar]) => `${(bar?.payload as { title?: string } | undefined)?.title ?? ''}, ${label(at)}`} />
              <Legend />
              <Bar dataKey="taken" name="taken" fill="#9a9893" isAnimationActive={false} />
              <Bar dataKey="needed" name="needed" fill="#00665c" isAnimationActive={false} />
            </BarChart>
          </ResponsiveContainer>
        )}
      </section>
      <section aria-label="Stride against the plan">
        <h2>Stride against the plan</h2>
        {strides.length < FEWEST ? (
          <p className={styles.quiet}>It takes two runs whose planes of focus are known.</p>
        ) : (
          <ResponsiveContainer width="100%" height={180}>
            <LineChart data={strides} margin={MARGIN} title="Stride against the plan, in percent">
              <CartesianGrid stroke="#d9d7d1" vertical={false} />
              <XAxis dataKey="at" tickFormatter={label} {...AXIS} />
              <YAxis unit=" %" domain={['auto', 'auto']} {...AXIS} width={64} />
              <Tooltip labelFormatter={label} formatter={(value) => `${significant(Number(value), 3)} % of the plan`} />
              <Line dataKey="percent" name="stride" stroke="#00665c" isAnimationActive={false} />
            </LineChart>
          </ResponsiveContainer>
        )}
      </section>
      <section aria-label="Seconds a frame">
        <h2>Seconds a frame</h2>
        {times.length < FEWEST ? (
          <p className={styles.quiet}>It takes two runs whose files say when they were taken.</p>
        ) : (
          <ResponsiveContainer width="100%" height={180}>
            <LineChart data={times} margin={MARGIN} title="Seconds a frame, run by run">
              <CartesianGrid stroke="#d9d7d1" vertical={false} />
              <XAxis dataKey="at" tickFormatter={label} {...AXIS} />
              <YAxis unit=" s" {...AXIS} width={56} />
              <Tooltip labelFormatter={label} formatter={(value) => `${significant(Number(value), 2)} s`} />
              <Line dataKey="seconds" name="seconds a frame" stroke="#00665c" isAnimationActive={false} />
            </LineChart>
          </ResponsiveContainer>
        )}
      </section>
    </div>
  )
}
