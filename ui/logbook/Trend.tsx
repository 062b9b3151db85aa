import { Bar, BarChart, CartesianGrid, Legend, Line, LineChart, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts'
import { dateText, significant } from '@/core/units'
import styles from './logbook.module.css'

/** One run tells nothing of a trend. */
const FEWEST = 2
const AXIS = { stroke: '#5f5e5a', tick: { fill: '#3d3c39', fontSize: 12 } }
const MARGIN = { top: 8, right: 8, bottom: 0, left: -12 }
const RULE = '#d9d7d1'

interface Props {
  title: string
  kind: 'bars' | 'lines'
  /** By date, or by whatever `by` names. */
  data: Record<string, unknown>[]
  by?: string
  /** What is drawn, in this order. */
  series: { key: string; name: string; colour: string; stacked?: boolean }[]
  unit?: string
  /** Where the line of what was meant stands. */
  meant?: number
  /** What it takes to draw anything. */
  otherwise: string
  fewest?: number
}

/** An axis from what there is; about what was meant at least so far to both sides, so that nothing looks like much. */
const NEAR = 5
const around = (meant?: number): [(least: number) => number, (most: number) => number] | ['auto', 'auto'] =>
  meant === undefined ? ['auto', 'auto'] : [(least) => Math.floor(Math.min(least, meant - NEAR)), (most) => Math.ceil(Math.max(most, meant + NEAR))]

/** A chart of runs over time, or a sentence where there are too few. */
export function Trend({ title, kind, data, by = 'at', series, unit = '', meant, otherwise, fewest = FEWEST }: Props) {
  const dated = by === 'at'
  const label = (value: unknown) => (typeof value === 'string' ? (dated ? dateText(value) : value) : '')
  const headed = (value: unknown, [first]: readonly { payload?: unknown }[]) =>
    [(first?.payload as { title?: string } | undefined)?.title, label(value)].filter(Boolean).join(', ')
  const axes = [
    <CartesianGrid key="grid" stroke={RULE} vertical={false} />,
    <XAxis key="x" dataKey={by} tickFormatter={label} {...AXIS} />,
    <YAxis key="y" unit={unit} allowDecimals={unit !== ''} domain={kind === 'lines' ? around(meant) : undefined} width={64} {...AXIS} />,
    <Tooltip key="tip" labelFormatter={headed} formatter={(value) => `${significant(Number(value), 3)}${unit}`} />,
    ...(series.length > 1 ? [<Legend key="legend" />] : []),
    ...(meant === undefined ? [] : [<ReferenceLine key="meant" y={meant} stroke={RULE} strokeDasharray="4 3" />]),
  ]
  return (
    <section aria-label={title}>
      <h2>{title}</h2>
      {data.length < fewest ? (
        <p className={styles.quiet}>{otherwise}</p>
      ) : (
        <ResponsiveContainer width="100%" height={180}>
          {kind === 'bars' ? (
            <BarChart data={data} margin={MARGIN} title={title}>
              {axes}
              {series.map(({ key, name, colour, stacked }) => (
                <Bar key={key} dataKey={key} name={name} fill={colour} stackId={stacked ? 'all' : undefined} isAnimationActive={false} />
              ))}
            </BarChart>
          ) : (
            <LineChart data={data} margin={MARGIN} title={title}>
              {axes}
              {series.map(({ key, name, colour }) => (
                <Line key={key} dataKey={key} name={name} stroke={colour} isAnimationActive={false} />
              ))}
            </LineChart>
          )}
        </ResponsiveContainer>
      )}
    </section>
  )
}
