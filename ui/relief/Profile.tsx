'use client'

import { Area, CartesianGrid, ComposedChart, Line, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts'
import type { ProfilePoint } from '@/core/relief'
import { significant } from '@/core/units'

interface Props {
  points: ProfilePoint[]
  /** Units of the way along and of the height. */
  along: string
  height: string
}

/** The heights along the line from A to B, with what they may be off by. */
export function Profile({ points, along, height }: Props) {
  const data = points.map((point) => ({ ...point, doubt: [point.low, point.high] }))
  const axis = { stroke: '#bdbdbd', tick: { fill: '#e4e4e4', fontSize: 12 }, tickFormatter: (value: number) => significant(value, 3) }
  return (
    <ResponsiveContainer width="100%" height={170}>
      <ComposedChart data={data} margin={{ top: 8, right: 10, bottom: 14, left: -8 }} title={`Height from A to B, in ${height}`}>
        <CartesianGrid stroke="#6a6a6a" vertical={false} />
        <XAxis
          dataKey="along"
          type="number"
          domain={[0, 'dataMax']}
          label={{ value: `from A to B, ${along}`, position: 'bottom', offset: -2, fill: '#e4e4e4', fontSize: 13 }}
          {...axis}
        />
        <YAxis domain={['auto', 'auto']} width={56} unit={` ${height}`} {...axis} />
        <Tooltip
          contentStyle={{ background: '#333', border: 0 }}
          labelFormatter={(at) => `${significant(Number(at), 3)} ${along} from A`}
          formatter={(value) =>
            Array.isArray(value)
              ? `${significant(Number(value[0]), 3)} to ${significant(Number(value[1]), 3)} ${height}`
              : `${significant(Number(value), 3)} ${height}`
          }
        />
        <Area dataKey="doubt" name="between" stroke="none" fill="#a8a8a8" fillOpacity={0.5} isAnimationActive={false} />
        <Line dataKey="height" name="height" stroke="#fff" strokeWidth={2} dot={false} isAnimationActive={false} />
      </ComposedChart>
    </ResponsiveContainer>
  )
}
