'use client'

import { Button } from 'antd'
import type { SurveyReport } from '@/core/survey'
import { surveyHeadline } from './roles'
import styles from './survey.module.css'

/** What the survey found, first what is still to be done. */
export function SurveyReportView({ survey, busy, onAgain }: { survey: SurveyReport | null; busy: boolean; onAgain: () => void }) {
  if (!survey) {
    return busy ? (
      <p className={styles.survey} role="status">
        Checking the run: order, ends, gaps, what moved…
      </p>
    ) : null
  }
  return (
    <section className={styles.survey} aria-label="Survey">
      <p>
        <strong>{surveyHeadline(survey)}</strong> Exposure within {survey.exposure.spread_ev.toFixed(2)} EV.{' '}
        <Button size="small" type="text" loading={busy} onClick={onAgain}>
          Check again
        </Button>
      </p>
      {survey.messages.length > 0 && (
        <ul>
          {survey.messages.map(({ code, text, files }) => (
            <li key={`${code} ${files.join(' ')}`}>▲ {text}</li>
          ))}
        </ul>
      )}
    </section>
  )
}
