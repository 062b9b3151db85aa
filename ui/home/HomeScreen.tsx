'use client'

import Link from 'next/link'
import type { ShootState, ShootSummary } from '@/schemas'
import { depthCss, rampPlace } from '@/core/ramp'
import { useShoots } from '../api'
import { DeleteButton } from '../DeleteButton'
import { Shell } from '../shell'
import { dateText, lengthText } from '@/core/units'
import styles from './home.module.css'

const STATES: Record<ShootState, { mark: string; label: string }> = {
  planned: { mark: '○', label: 'planned' },
  shot: { mark: '◐', label: 'shot' },
  fused: { mark: '●', label: 'fused' },
}

/** Every shoot with its picture, subject, state and date. */
export function HomeScreen() {
  const { data: shoots, error, isLoading } = useShoots()
  return (
    <Shell>
      <div className={styles.head}>
        <h1>Shoots</h1>
        <Link href="/shoots/new" className={styles.primary}>
          Plan a shoot
        </Link>
      </div>
      {error && <p role="alert">▲ {error.message}</p>}
      {isLoading && <p role="status">Loading the shoots…</p>}
      {shoots?.length === 0 && <p className={styles.empty}>No shoots yet. Plan the first one: give its depth, a magnification and an aperture.</p>}
      <ul className={styles.list}>
        {shoots?.map((shoot) => (
          <li key={shoot.id}>
            <ShootCard shoot={shoot} />
            <div className={styles.remove}>
              <DeleteButton kind="shoot" id={shoot.id} what={shoot.title} />
            </div>
          </li>
        ))}
      </ul>
    </Shell>
  )
}

function ShootCard({ shoot }: { shoot: ShootSummary }) {
  const step = { planned: 'plan', shot: 'shoot', fused: 'result' }[shoot.state]
  const { mark, label } = STATES[shoot.state]
  return (
    <Link href={`/shoots/${shoot.id}/${step}`} className={styles.card}>
      <div className={styles.picture}>
        {shoot.cover ? <img src={`/api/${shoot.cover.kind}s/${shoot.cover.id}/thumb`} alt="" /> : <PlannedPicture shoot={shoot} />}
      </div>
      <div className={styles.words}>
        <h2>{shoot.title}</h2>
        <p>{shoot.subject}</p>
        <p className={styles.facts}>
          <span>
            {mark} {label}
          </span>
          <span>{planText(shoot)}</span>
          <span>{dateText(shoot.created_at)}</span>
        </p>
      </div>
    </Link>
  )
}

/** Before there is a picture: the planned slices, near to far. */
function PlannedPicture({ shoot }: { shoot: ShootSummary }) {
  const count = shoot.plan?.frameCount ?? 0
  return (
    <svg viewBox="0 0 300 200" preserveAspectRatio="none" aria-hidden>
      {Array.from({ length: Math.min(count, 300) }, (_, k) => (
        <rect
          key={k}
          x={20 + (260 * k) / count}
          width={Math.max(0.8, 260 / count - 1.2)}
          y={k % 2 ? 62 : 50}
          height={88}
          fill={depthCss(rampPlace(k, count))}
        />
      ))}
    </svg>
  )
}

function planText({ plan, frameCount, state }: ShootSummary): string {
  if (state !== 'planned') return `${frameCount} frames`
  if (!plan) return 'the plan no longer works'
  if (plan.frameCount === 1) return 'one frame is enough'
  return plan.hyperfocal_mm ? `${plan.frameCount} frames` : `${plan.frameCount} frames, ${lengthText(plan.stride_mm)} apart`
}
