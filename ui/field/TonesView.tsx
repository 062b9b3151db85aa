'use client'

import { Area, AreaChart, XAxis } from 'recharts'
import type { Tones } from '@/schemas'
import { COLOURS } from '../theme'
import styles from './field.module.css'

/** More than this much clipped white is worth a word, in percent. */
const MUCH_percent = 0.5

/** How the tones of a test frame are spread, and what to do about it. */
export function TonesView({ tones }: { tones: Tones }) {
  const { histogram, white_percent, black_percent } = tones
  const data = histogram.map((count, k) => ({ tone: k, count: Math.sqrt(count) }))
  const top = histogram.findLastIndex((count) => count > 0)
  const advice =
    white_percent > MUCH_percent
      ? `${white_percent.toFixed(1)} % is clipped white. Expose less.`
      : top < histogram.length * 0.6
        ? 'Nothing is close to white. Expose about one stop more.'
        : `Good: ${white_percent.toFixed(1)} % white, ${black_percent.toFixed(1)} % black.`
  return (
    <figure className={styles.tones} aria-label="Tones of the test frame">
      <AreaChart width={310} height={86} data={data} margin={{ top: 2, right: 20, bottom: 0, left: 20 }}>
        <XAxis
          dataKey="tone"
          type="number"
          domain={[0, 63]}
          ticks={[0, 63]}
          tickFormatter={(tone) => (tone === 0 ? 'black' : 'white')}
          interval={0}
        />
        <Area dataKey="count" fill={COLOURS.ink} stroke="none" isAnimationActive={false} />
      </AreaChart>
      <figcaption>{advice}</figcaption>
    </figure>
  )
}
