'use client'

import { Button, Checkbox, Popover, Select } from 'antd'
import { useState } from 'react'
import { STYLE_PURPOSES, USUAL_STYLE } from '@/core/fuse/purposes'
import type { FuseSettings } from '@/schemas'
import { message } from '../messages'
import { send, useCommand } from '../api'
import type { SortedFrame } from '../survey'
import styles from './shoot.module.css'

const STYLE_OPTIONS = Object.entries(STYLE_PURPOSES).map(([name, purpose]) => {
  const title = name[0].toUpperCase() + name.slice(1)
  return { value: name, name: title, label: `${title}: ${purpose[0].toLowerCase()}${purpose.slice(1)}` }
})

interface Props {
  runId: number
  shootId: number
  /** Frames that will be fused, and how many there are. */
  used: SortedFrame[]
  all: number
  /** A job of this shoot waits or runs. */
  busy: boolean
  /** Fusing is what comes next. */
  next: boolean
}

type Chosen = Pick<FuseSettings, 'style' | 'reference' | 'crop' | 'localWarp' | 'moving' | 'finest'>

/** What a run is fused with, and the button that does it. */
export function FuseControls({ runId, shootId, used, all, busy, next }: Props) {
  const [open, setOpen] = useState(false)
  const [chosen, setChosen] = useState<Chosen>({ style: USUAL_STYLE, crop: 'common', localWarp: 'whereMoved' })
  const change = (part: Partial<Chosen>) => setChosen((before) => ({ ...before, ...part }))
  // A frame that is set aside after it was chosen to frame by is none any more.
  const reference = chosen.reference && chosen.reference <= used.length ? chosen.reference : undefined
  const fuse = useCommand(shootId, () => send(`/api/runs/${runId}/fuse`, 'POST', { ...chosen, reference }))
  const changed = [reference, chosen.crop !== 'common', chosen.localWarp === 'never', chosen.moving === 'blend', chosen.finest].filter(Boolean).length
  const middle = used[Math.ceil(used.length / 2) - 1]
  return (
    <>
      <Button
        type={next ? 'primary' : 'default'}
        disabled={busy}
        onClick={() => fuse.mutate(undefined, { onError: (error) => message.error(error.message) })}
      >
        {used.length === all ? 'Fuse these frames' : `Fuse ${used.length} of these frames`}
      </Button>
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
        open={open}
        onOpenChange={setOpen}
        content={
          <div className={styles.settings} onKeyDown={({ key }) => key === 'Escape' && setOpen(false)}>
            <p>
              Keep the framing of
              <Select
                aria-label="Keep the framing of"
                value={reference ?? 0}
                onChange={(value) => change({ reference: value || undefined })}
                options={[
                  { value: 0, label: `the middle frame, ${middle?.number ?? ''}` },
                  ...used.map(({ number, frame }, k) => ({ value: k + 1, label: `frame ${number}, ${frame.name}` })),
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
              checked={chosen.moving !== 'blend'}
              onChange={({ target }) => change({ moving: target.checked ? undefined : 'blend' })}
            >
              Show what moved a lot from one frame
              <span>Leaves, grass and water come from one moment each. Otherwise they may show several times.</span>
            </Checkbox>
            <Checkbox
              className={styles.option}
              checked={chosen.finest ?? false}
              onChange={({ target }) => change({ finest: target.checked || undefined })}
            >
              Bring out the finest detail
              <span>Goes through the frames twice, and gives back what laying them on one another softens. Takes longer.</span>
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
        <Button disabled={busy} onKeyDown={({ key }) => key === 'Escape' && setOpen(false)}>
          {changed ? `Settings · ${changed}` : 'Settings'}
        </Button>
      </Popover>
    </>
  )
}
