'use client'

import { Checkbox, Collapse } from 'antd'
import styles from './field.module.css'

interface Props {
  lines: string[]
  cautions: string[]
  done: string[]
  onChange: (line: string, done: boolean) => void
}

/** What to see to before the first frame, fitted to the plan; folded away once all is done. */
export function Preparation({ lines, cautions, done, onChange }: Props) {
  const left = lines.filter((line) => !done.includes(line)).length
  return (
    <Collapse
      className={styles.preparation}
      defaultActiveKey={left > 0 && done.length > 0 ? ['list'] : []}
      items={[
        {
          key: 'list',
          label: left > 0 ? `Before the first frame: ${left} of ${lines.length} still to do` : 'Before the first frame: all done',
          children: (
            <>
              {cautions.map((line) => (
                <p key={line} className={styles.caution}>
                  ▲ {line}
                </p>
              ))}
              <ul className={styles.lines}>
                {lines.map((line) => (
                  <li key={line}>
                    <Checkbox checked={done.includes(line)} onChange={({ target }) => onChange(line, target.checked)}>
                      {line}
                    </Checkbox>
                  </li>
                ))}
              </ul>
            </>
          ),
        },
      ]}
    />
  )
}
