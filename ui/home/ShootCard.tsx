'use client'

import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import { depthCss, rampPlace } from '@/core/ramp'
import { dateText, lengthText } from '@/core/units'
import type { ShootSummary } from '@/schemas'
import { usePlanAgain, useRenameShoot } from '../api'
import { DeleteButton } from '../DeleteButton'
import { thumbAddress } from '../thumbAddress'
import { STATES } from './find'
import styles from './home.module.css'

const STEPS = { planned: 'plan', shot: 'shoot', fused: 'result' } as const

/** A shoot in the list: its picture, what it is and how far it is; and what can be done with it as a whole. */
export function ShootCard({ shoot }: { shoot: ShootSummary }) {
  const { mark, label } = STATES[shoot.state]
  const [renaming, setRenaming] = useState(false)
  // Frames that were only ticked in the field have yet to be brought.
  const step = shoot.state === 'planned' && !shoot.planned ? 'shoot' : STEPS[shoot.state]
  return (
    <article className={styles.card}>
      <Link href={`/shoots/${shoot.id}/${step}`}>
        <div className={styles.picture}>
          {shoot.cover ? <img src={coverAddress(shoot.cover)} alt="" loading="lazy" /> : <PlannedPicture shoot={shoot} />}
        </div>
        <div className={styles.words}>
          <h2>{shoot.title}</h2>
          <p>{shoot.subject}</p>
          <p className={styles.facts}>
            <span>
              {mark} {label}
            </span>
            <span>{framesText(shoot)}</span>
            <span>{dateText(shoot.created_at)}</span>
          </p>
        </div>
      </Link>
      {renaming ? <Rename shoot={shoot} onClose={() => setRenaming(false)} /> : <Actions shoot={shoot} onRename={() => setRenaming(true)} />}
    </article>
  )
}

function Actions({ shoot: { id, title, planned }, onRename }: { shoot: ShootSummary; onRename: () => void }) {
  const router = useRouter()
  const again = usePlanAgain()
  return (
    <div className={styles.actions}>
      <button type="button" onClick={onRename}>
        Rename<span> {title}</span>
      </button>
      {planned && (
        <button
          type="button"
          disabled={again.isPending}
          onClick={() => again.mutate(id, { onSuccess: (copy) => router.push(`/shoots/${copy}/plan`) })}
        >
          Plan it again<span>: {title}</span>
        </button>
      )}
      <DeleteButton kind="shoot" id={id} what={title} />
    </div>
  )
}

function Rename({ shoot: { id, title, subject }, onClose }: { shoot: ShootSummary; onClose: () => void }) {
  const [name, setName] = useState(title)
  const rename = useRenameShoot()
  return (
    <form
      className={styles.rename}
      onSubmit={(event) => {
        event.preventDefault()
        rename.mutate({ id, title: name, subject }, { onSuccess: onClose })
      }}
      onKeyDown={(event) => event.key === 'Escape' && onClose()}
    >
      <input
        aria-label={`New title of ${title}`}
        value={name}
        onChange={(event) => setName(event.target.value)}
        maxLength={120}
        autoFocus
        onFocus={({ target }) => target.select()}
      />
      <button type="submit">Save</button>
      <button type="button" onClick={onClose}>
        Cancel
      </button>
      {rename.error && <p role="alert">▲ {rename.error.message}</p>}
    </form>
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

/** How many frames there are and are used, were ticked in the field, or are planned. */
export function framesText({ plan, planned, frameCount, usedCount, fieldCount, state }: ShootSummary): string {
  if (frameCount > 0)
    return usedCount < frameCount ? `${usedCount} used of ${frameCount} frames` : `${frameCount} ${frameCount === 1 ? 'frame' : 'frames'}`
  if (state === 'shot') return `${fieldCount} ticked in the field, no files yet`
  if (!planned) return 'no plan, no frames yet'
  if (!plan) return 'the plan no longer works'
  if (plan.frameCount === 1) return 'one frame is enough'
  return plan.hyperfocal_mm ? `${plan.frameCount} frames` : `${plan.frameCount} frames, ${lengthText(plan.stride_mm)} apart`
}

const coverAddress = (cover: NonNullable<ShootSummary['cover']>) => (cover.kind === 'frame' ? thumbAddress(cover) : `/api/renders/${cover.id}/thumb`)
