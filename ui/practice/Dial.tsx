import styles from './practice.module.css'

/** A dial with its marks; it turns, and the stroke above it stands. */
export function Dial({ marks, aTurn }: { marks: number; aTurn: number }) {
  const turned = (360 * marks) / aTurn
  return (
    <svg className={styles.dial} viewBox="-50 -56 100 106" role="img" aria-label={`The dial stands at ${marks} marks`}>
      <path d="M0 -55 V-46" />
      <g style={{ transform: `rotate(${-turned}deg)` }}>
        <circle r={44} />
        {Array.from({ length: aTurn / 2 }, (_, k) => (
          <line key={k} y1={-44} y2={k % 5 === 0 ? -36 : -40} transform={`rotate(${(720 * k) / aTurn})`} />
        ))}
        {Array.from({ length: 10 }, (_, k) => (
          <text key={k} y={-25} transform={`rotate(${36 * k})`}>
            {(k * aTurn) / 10}
          </text>
        ))}
      </g>
    </svg>
  )
}
