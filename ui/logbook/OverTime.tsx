'use client'

import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import type { LogEntry } from '@/core/logbook'
import { fetchJson } from '../api'
import styles from './logbook.module.css'
import { choices, seriesOf } from './series'
import { Trend } from './Trend'

const [MAIN, PALE, DARK] = ['#00665c', '#9a9893', '#8a4b00']

/** What the runs have in common over time, all of them or those with one lens and setting. */
export function OverTime() {
  const { data, error } = useQuery({ queryKey: ['logbook', 'all'], queryFn: () => fetchJson<LogEntry[]>('/api/logbook?as=json') })
  const [asked, setAsked] = useState('all')
  if (error) return <p role="alert">▲ {error.message}</p>
  const all = data ?? []
  const offered = choices(all)
  const chosen = offered.find(({ value }) => value === asked) ?? offered[0]
  const { frames, wasted, strides, depths, overlaps, times, lost } = seriesOf(all.filter(chosen.fits))
  return (
    <>
      <p className={styles.of}>
        <label htmlFor="charts of">Runs with</label>
        <select id="charts of" value={chosen.value} onChange={({ target }) => setAsked(target.value)}>
          {offered.map(({ value, label }) => (
            <option key={value} value={value}>
              {label}
            </option>
          ))}
        </select>
      </p>
      <div className={styles.charts}>
        <Trend
          title="Frames taken and needed"
          kind="bars"
          data={frames}
          series={[
            { key: 'taken', name: 'taken', colour: PALE },
            { key: 'needed', name: 'needed', colour: MAIN },
          ]}
          otherwise="It takes two runs. How many frames were needed stands beside them once you ask on the result."
        />
        <Trend
          title="Frames wasted"
          kind="bars"
          data={wasted}
          series={[
            { key: 'flawed', name: 'failed', colour: DARK, stacked: true },
            { key: 'repeated', name: 'added nothing', colour: PALE, stacked: true },
            { key: 'more', name: 'more than needed', colour: MAIN, stacked: true },
          ]}
          otherwise="It takes two runs."
        />
        <Trend
          title="Overlap planned and needed"
          kind="lines"
          unit=" %"
          data={overlaps}
          series={[
            { key: 'planned', name: 'planned', colour: PALE },
            { key: 'needed', name: 'needed', colour: MAIN },
          ]}
          otherwise="It takes two runs that you asked on the result how many frames were needed of."
        />
        <Trend
          title="Stride against the plan"
          kind="lines"
          unit=" %"
          meant={100}
          data={strides}
          series={[{ key: 'percent', name: 'of the plan', colour: MAIN }]}
          otherwise="It takes two runs whose planes of focus are known."
        />
        <Trend
          title="Depth of field against the formula"
          kind="lines"
          unit=" %"
          meant={100}
          data={depths}
          series={[{ key: 'percent', name: 'of the formula', colour: MAIN }]}
          otherwise="It takes two runs whose frames tell how fast blur grows, and how far the focus went."
        />
        <Trend
          title="Time a run"
          kind="lines"
          unit=" min"
          data={times}
          series={[{ key: 'minutes', name: 'from the first frame to the last', colour: MAIN }]}
          otherwise="It takes two runs whose files say when they were taken."
        />
        <Trend
          title="Runs that were not complete, and why"
          kind="bars"
          by="why"
          fewest={1}
          data={lost}
          series={[{ key: 'runs', name: 'runs', colour: DARK }]}
          otherwise="Every run that was checked is complete."
        />
      </div>
    </>
  )
}
