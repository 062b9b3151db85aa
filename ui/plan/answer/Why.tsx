'use client'

import { Popover } from 'antd'
import type { ReactNode } from 'react'
import styles from './answer.module.css'

export interface Reason {
  /** What the number means for the pictures, in a sentence or two. */
  why: string
  formula: string
  inputs: string
  source: string
}

/** A number with its unit that answers "why?": the reason first, then formula, inputs, source. */
export function Why({ label, value, reason, testId }: { label: string; value: ReactNode; reason: Reason; testId?: string }) {
  const content = (
    <dl className={styles.reason}>
      <dd className={styles.because}>{reason.why}</dd>
      <dt>Formula</dt>
      <dd>{reason.formula}</dd>
      <dt>Here</dt>
      <dd>{reason.inputs}</dd>
      <dt>Source</dt>
      <dd>{reason.source}</dd>
    </dl>
  )
  return (
    <div className={styles.number}>
      <dt>{label}</dt>
      <dd data-testid={testId}>
        {value}
        <Popover content={content} trigger="click" title={label}>
          <button type="button" className={styles.why} aria-label={`Why: ${label}`}>
            why?
          </button>
        </Popover>
      </dd>
    </div>
  )
}
