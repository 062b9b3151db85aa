'use client'

import Link from 'next/link'
import type { ShootDetail } from '@/schemas'
import { Guide } from '../guide'
import styles from './shell.module.css'

export type Step = 'plan' | 'shoot' | 'result' | 'mend' | 'deliver'

const STEPS: { step: Step; label: string }[] = [
  { step: 'plan', label: 'Plan' },
  { step: 'shoot', label: 'Shoot' },
  { step: 'result', label: 'Result' },
  { step: 'mend', label: 'Mend' },
  { step: 'deliver', label: 'Deliver' },
]

/** Title of a shoot and the way through it. */
export function ShootHeader({ shoot, step }: { shoot: ShootDetail; step: Step }) {
  return (
    <>
      <div className={styles.shootHeader}>
        <div>
          <h1>{shoot.title}</h1>
          <p>{shoot.subject}</p>
        </div>
        <ol className={styles.steps} aria-label="Steps of this shoot">
          {STEPS.map(({ step: here, label }) => (
            <li key={here}>
              <Link href={`/shoots/${shoot.id}/${here}`} aria-current={here === step ? 'step' : undefined}>
                {label}
              </Link>
            </li>
          ))}
        </ol>
      </div>
      <Guide shootId={shoot.id} step={step} />
    </>
  )
}
