'use client'

import { Button } from 'antd'
import type { SurveyMessage, SurveyReport } from '@/core/survey'
import { unsharpText } from './UnsharpOverlay'
import { surveyHeadline } from './roles'
import styles from './survey.module.css'

interface Props {
  survey: SurveyReport | null
  busy: boolean
  onAgain: () => void
  /** Whether what is sharp in no frame is hatched on the frames. */
  hatched: boolean
  onHatched: (hatched: boolean) => void
}

/** Less of the picture than this, in percent, is not worth a look. */
const WORTH_A_LOOK = 1

/** Messages that tell what is sharp in no frame. */
const SAYS_IT: SurveyMessage['code'][] = ['near-short', 'far-short', 'loose', 'gap']

/** What the survey found, first what is still to be done. */
export function SurveyReportView({ survey, busy, onAgain, hatched, onHatched }: Props) {
  if (!survey) {
    return busy ? (
      <p className={styles.survey} role="status">
        Checking the run: order, ends, gaps, what moved…
      </p>
    ) : null
  }
  const { unsharp } = survey.coverage
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
      {unsharp && unsharp.share_percent >= WORTH_A_LOOK && (
        <p>
          {!survey.messages.some(({ code }) => SAYS_IT.includes(code)) && `${unsharpText(unsharp)} `}
          <Button size="small" aria-pressed={hatched} onClick={() => onHatched(!hatched)}>
            {hatched ? 'Hide what is sharp in no frame' : 'Show where nothing is sharp'}
          </Button>
        </p>
      )}
    </section>
  )
}
