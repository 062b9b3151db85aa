'use client'

import dynamic from 'next/dynamic'
import { Button, Select } from 'antd'
import { useState } from 'react'
import { significant } from '@/core/units'
import type { DevelopLike, RunDetail, RunDevelopment } from '@/schemas'
import { send, useCommand } from '../api'
import { message } from '../messages'
import styles from './shoot.module.css'

const NeutralPicker = dynamic(() => import('./NeutralPicker').then((part) => part.NeutralPicker), { ssr: false })

interface Props {
  run: RunDetail
  development: RunDevelopment
  shootId: number
  disabled: boolean
}

/** How the raw frames of a run are developed: all alike, by one of them or a place of it that is grey. Once pictures were made of them it stays as it is. */
export function RawDevelopment({ run, development, shootId, disabled }: Props) {
  const like = useCommand<DevelopLike>(shootId, (how) => send(`/api/runs/${run.id}/development`, 'PUT', how))
  const [picking, setPicking] = useState(false)
  const { headroom, neutral } = development
  const by = run.frames.find(({ name }) => name === development.like)
  const develop = (how: DevelopLike) => like.mutate(how, { onError: (error) => message.error(error.message), onSuccess: () => setPicking(false) })
  const fixed = run.renders.length > 0
  return (
    <p className={styles.development}>
      All are developed with the white balance of{' '}
      {fixed ? (
        development.like
      ) : (
        <Select
          size="small"
          aria-label="Take the white balance of"
          value={development.like}
          disabled={disabled || like.isPending}
          options={run.frames.map(({ name }) => ({ value: name, label: name }))}
          onChange={(name) => develop({ frame: run.frames.find((frame) => frame.name === name)!.id })}
        />
      )}
      {neutral ? ', so that a place of it is grey' : ', as the camera noted it'}{' '}
      {!fixed && by && (
        <Button size="small" disabled={disabled || like.isPending} onClick={() => setPicking(true)}>
          {neutral ? 'Choose another grey place' : 'Make a place grey'}
        </Button>
      )}
      {!fixed && by && neutral && (
        <Button size="small" disabled={disabled || like.isPending} onClick={() => develop({ frame: by.id })}>
          As the camera noted it
        </Button>
      )}
      {picking && by && (
        <NeutralPicker
          frame={by}
          at={neutral}
          busy={like.isPending}
          onPick={(place) => develop({ frame: by.id, neutral: place })}
          onClose={() => setPicking(false)}
        />
      )}
      {headroom > 1.01 && <span>, {significant(Math.log2(headroom), 2)} stops darker than the camera shows them, so that no highlight is lost</span>}
    </p>
  )
}
