import type { KeptTry } from '@/schemas'
import styles from './practice.module.css'

/** So many tries are drawn, the newest ones. */
const SHOWN = 20
const [WIDTH, HEIGHT] = [160, 36]

/** Marks over time as columns, one for each try; the level is written beneath. */
export function Record({ tries }: { tries: KeptTry[] }) {
  const shown = tries.slice(-SHOWN)
  const wide = WIDTH / SHOWN
  return (
    <svg
      className={styles.record}
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      role="img"
      aria-label={`Marks of the last tries: ${shown.map(({ percent }) => Math.round(percent)).join(', ')} %`}
    >
      <line x1={0} x2={WIDTH} y1={HEIGHT - 9.5} y2={HEIGHT - 9.5} />
      {shown.map(({ percent, level }, k) => (
        <g key={k} transform={`translate(${k * wide} 0)`}>
          <rect x={1} width={wide - 2} y={(HEIGHT - 10) * (1 - percent / 100)} height={((HEIGHT - 10) * percent) / 100} />
          <text x={wide / 2} y={HEIGHT - 1}>
            {level}
          </text>
        </g>
      ))}
    </svg>
  )
}
