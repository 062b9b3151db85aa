'use client'

import { Input } from 'antd'
import { useRouter } from 'next/navigation'
import { useRef, useState } from 'react'
import { dateText } from '@/core/units'
import { useSaveShoot } from '../api'
import { Shell } from '../shell'
import { BringFrames } from './BringFrames'
import styles from './shoot.module.css'

/** Frames that were taken without a plan: a title, the files, and on to what they are. A plan can be made later. */
export function FramesFirstScreen() {
  const router = useRouter()
  const [title, setTitle] = useState(() => `Frames of ${dateText(new Date().toISOString())}`)
  const save = useSaveShoot()
  // A second drop after some files were refused belongs to the same shoot.
  const shoot = useRef<Promise<number>>(undefined)
  const shootOf = () => {
    shoot.current ??= save.mutateAsync({ title, subject: '', scene: 'fossil', plan: null })
    shoot.current.catch(() => (shoot.current = undefined))
    return shoot.current
  }
  return (
    <Shell>
      <h1 className={styles.title}>Bring frames</h1>
      <div className={styles.framesFirst}>
        <label htmlFor="title">Title of the shoot</label>
        <Input
          id="title"
          value={title}
          maxLength={120}
          autoFocus
          onFocus={({ target }) => target.select()}
          onChange={({ target }) => setTitle(target.value)}
        />
        <BringFrames shootOf={shootOf} onDone={(id) => router.push(`/shoots/${id}/shoot`)} />
      </div>
    </Shell>
  )
}
