import { Button } from 'antd'
import type { RunDetail } from '@/schemas'
import { send, useCommand } from '../api'
import { message } from '../messages'
import styles from './shoot.module.css'

/** What the frames of a run are, where the sensor was shifted between several captures of each; and the way back, until pictures were made. */
export function CaptureSets({ run, shootId, disabled }: { run: RunDetail; shootId: number; disabled: boolean }) {
  const apart = useCommand(shootId, () => send(`/api/runs/${run.id}/captures`, 'DELETE'))
  const most = Math.max(...run.frames.map(({ captures }) => captures))
  if (most === 1) return null
  const fewer = run.frames.filter(({ captures }) => captures < most)
  return (
    <p className={styles.development}>
      Each frame is {most} captures with a shifted sensor. They are merged when the frame is developed.
      {fewer.length > 0 && ` ${fewer.map(({ name }) => name).join(', ')}: fewer captures, so that only the first of them is used.`}{' '}
      {run.renders.length === 0 && (
        <Button
          size="small"
          disabled={disabled || apart.isPending}
          onClick={() => apart.mutate(undefined, { onError: (error) => message.error(error.message) })}
        >
          Make every capture a frame
        </Button>
      )}
    </p>
  )
}
