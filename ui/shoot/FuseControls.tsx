'use client'

import { Button, Checkbox, Popover, Select } from 'antd'
import { useState } from 'react'
import { STYLE_PURPOSES, USUAL_STYLE } from '@/core/fuse/purposes'
import type { FuseSettings } from '@/schemas'
import { message } from '../messages'
import { send, useCommand } from '../api'
import styles from './shoot.module.css'

const STYLE_OPTIONS = Object.entries(STYLE_PURPOSES).map(([name, purpose]) => {
  const title = name[0].toUpperCase() + name.slice(1)
  return { value: name, name: title, label: `${title}: ${purpose[0].toLowerCase()}${purpose.slice(1)}` }
})

interface Props {
  runId: number
  shootId: number
  /** Frames that will be fused, and all there are. */
  used: number
  all: number
  /** A job of this shoot waits or runs. */
  busy: boolean
}

type Chosen = Pick<FuseSettings, 'style' | 'reference' | 'crop' | 'localWarp'>

/** What a run is fused with, and the button that does it. */
export function FuseControls({ runId, shootId, used, all, busy }: Props) {
  const [chosen, setChosen] = useState<Chosen>({ style: USUAL_STYLE, crop: 'common', localWarp: 'whereMoved' })
  const change = (part: Partial<Chosen>) => setChosen((before) => ({ ...before, ...part }))
  // A frame that is set aside after it was chosen to frame by is none any more.
  const reference = chosen.reference && chosen.reference <= used ? chosen.reference : undefined
  const fuse = useCommand(shootId, () => send(`/api/runs/${runId}/fuse`, 'POST', { ...chosen, reference }))
  const changed = [reference, chosen.crop !== 'common', chosen.localWarp === 'never'].filter(Boolean).length
  const middle = Math.ceil(used / 2)
  return (
    <>
      <Select
        aria-label="Style of fusing"
        value={chosen.style}
        onChange={(style) => change({ style })}
        options={STYLE_OPTIONS}
        popupMatchSelectWidth={430}
        disabled={busy}
        optionLabelProp="name"
      />
      <Popover
        trigger="click"
        placement="bottom"
        content={
          <div className={styles.settings}>
            <p>
              Keep the framing of
              <Select
                aria-label="Keep the framing of"
                value={reference ?? 0}
                onChange={(value) => change({ reference: value || undefined })}
                options={[
                  { value: 0, label: `the middle frame, ${middle}` },
                  ...Array.from({ length: used }, (_, k) => ({ value: k + 1, label: `frame ${k + 1}` })),
                ]}
              />
            </p>
            <Checkbox
              className={styles.option}
              checked={chosen.localWarp !== 'never'}
              onChange={({ target }) => change({ localWarp: target.checked ? 'whereMoved' : 'never' })}
            >
              Follow parts that moved on their own
              <span>Frames are bent a little where leaves or feelers moved. If nothing moved, this changes nothing.</span>
            </Checkbox>
            <Checkbox
              className={styles.option}
              checked={chosen.crop === 'common'}
              onChange={({ target }) => change({ crop: target.checked ? 'common' : 'none' })}
            >
              Crop to what all frames show
              <span>Otherwise the edges stay, although not every frame covers them. They may look doubled.</span>
            </Checkbox>
          </div>
        }
      >
        <Button disabled={busy}>{changed ? `Settings · ${changed}` : 'Settings'}</Button>
      </Popover>
      <Button type="primary" disabled={busy} onClick={() => fuse.mutate(undefined, { onError: (error) => message.error(error.message) })}>
        {used === all ? 'Fuse these frames' : `Fuse ${used} of these frames`}
      </Button>
    </>
  )
}
