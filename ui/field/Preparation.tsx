'use client'

import styles from './field.module.css'

interface Props {
  lines: string[]
  cautions: string[]
  done: string[]
  onChange: (line: string, done: boolean) => void
}

/** What to do before the first frame, fitted to the plan; folded away once all is done. */
export function Preparation({ lines, cautions, done, onChange }: Props) {
  const left = lines.filter((line) => !done.includes(line)).length
  return (
    <details className={styles.preparation} open={left > 0 && done.length > 0 ? true : undefined}>
      <summary>{left > 0 ? `Before the first frame: ${left} of ${lines.length} still to do` : 'Before the first frame: all done'}</summary>
      {cautions.map((line) => (
        <p key={line} className={styles.caution}>
          ▲ {line}
        </p>
      ))}
      <ul className={styles.lines}>
        {lines.map((line) => (
          <li key={line}>
            <label>
              <input type="checkbox" checked={done.includes(line)} onChange={({ target }) => onChange(line, target.checked)} /> {line}
            </label>
          </li>
        ))}
      </ul>
    </details>
  )
}
