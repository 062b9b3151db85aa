import type { RunCard } from '@/core/sheet'
import styles from './card.module.css'

/** One sheet of paper: framing and exposure, checklist, and every position with a box to tick. */
export function CardSheet({ card }: { card: RunCard }) {
  const { columns, rows } = card.positions
  return (
    <article className={styles.sheet} aria-label="Run card">
      <header>
        <h2>{card.title}</h2>
        <p>{card.subject}</p>
        <p className={styles.headline}>{card.headline}</p>
      </header>
      <dl className={styles.settings}>
        {card.settings.map(({ label, value }) => (
          <div key={label}>
            <dt>{label}</dt>
            <dd>{value}</dd>
          </div>
        ))}
      </dl>
      <div className={styles.lists}>
        <section>
          <h3>Before the first frame</h3>
          <ul className={styles.ticks}>
            {card.checklist.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
        </section>
        <section>
          <h3>{card.how.title}</h3>
          <ol>
            {card.how.steps.map((step) => (
              <li key={step}>{step}</li>
            ))}
          </ol>
          {card.cautions.length > 0 && (
            <>
              <h3>Watch out</h3>
              <ul>
                {card.cautions.map((line) => (
                  <li key={line}>{line}</li>
                ))}
              </ul>
            </>
          )}
        </section>
      </div>
      <div className={rows.length > 24 ? styles.manyPositions : styles.positions} role="region" aria-label="Positions" tabIndex={0}>
        {inParts(rows, rows.length > 24 ? 2 : 1).map((part, n) => (
          <table key={n}>
            <thead>
              <tr>
                <th>Shot</th>
                {columns.map((column) => (
                  <th key={column}>{column}</th>
                ))}
                <th>Taken</th>
              </tr>
            </thead>
            <tbody>
              {part.map(({ shot, index, cells }) => (
                <tr key={index}>
                  <td>{shot}</td>
                  {cells.map((cell, k) => (
                    <td key={k}>{cell}</td>
                  ))}
                  <td>
                    <span className={styles.box} />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        ))}
      </div>
    </article>
  )
}

/** Rows numbered as they are shot, in so many columns of equal length. */
function inParts(rows: RunCard['positions']['rows'], parts: number) {
  const numbered = rows.map((row, k) => ({ ...row, shot: k + 1 }))
  const size = Math.ceil(rows.length / parts)
  return Array.from({ length: parts }, (_, n) => numbered.slice(n * size, (n + 1) * size)).filter((part) => part.length > 0)
}
