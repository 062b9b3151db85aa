'use client'

import { Select } from 'antd'
import { significant } from '@/core/units'
import type { RunDetail, RunDevelopment } from '@/schemas'
import { send, useCommand } from '../api'
import { message } from '../messages'
import styles from './shoot.module.css'

interface Props {
  run: RunDetail
  development: RunDevelopment
  shootId: number
  disabled: boolean
}

/** How the raw frames of a run are developed: all alike, by one of them. Once pictures were made of them it stays as it is. */
export function RawDevelopment({ run, development, shootId, disabled }: Props) {
  const like = useCommand<number>(shootId, (frame) => send(`/api/runs/${run.id}/development`, 'PUT', { frame }))
  const { headroom } = development
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
          onChange={(name) => like.mutate(run.frames.find((frame) => frame.name === name)!.id, { onError: (error) => message.error(error.message) })}
        />
      )}
      {headroom > 1.01 && <span>, {significant(Math.log2(headroom), 2)} stops darker than the camera shows them, so that no highlight is lost</span>}
    </p>
  )
}
