'use client'

import { Select } from 'antd'
import { useState } from 'react'
import type { FuseSettings, RenderDetail, ReportPart } from '@/schemas'
import { significant } from '@/core/units'
import { send, useCommand } from '../api'
import { message } from '../messages'
import type { NamedFrame } from '../namedFrames'
import styles from './result.module.css'

interface Props {
  render: RenderDetail
  runId: number
  shootId: number
  frames: NamedFrame[]
  shown?: ReportPart
  onShow: (part: ReportPart | undefined) => void
}

/** Parts that moved and are shown from one frame each, and the way to another frame. */
export function MovedParts({ render, runId, shootId, frames, shown, onShow }: Props) {
  const { parts = [], settings } = render.report
  const [chosen, setChosen] = useState<Record<number, string>>({})
  const again = useCommand(shootId, (change: Partial<FuseSettings>) => send(`/api/runs/${runId}/fuse`, 'POST', { ...settings, ...change }))
  const fuse = (change: Partial<FuseSettings>) => again.mutate(change, { onError: (error) => void message.error(error.message) })
  if (parts.length === 0) return null
  const numberOf = (file: string) => frames.find((frame) => frame.file === file)?.number ?? file
  const changed = Object.entries(chosen).filter(([k, frame]) => parts[Number(k)].frame !== frame)
  const moments = [...(settings.moments ?? []), ...changed.map(([k, frame]) => ({ ...parts[Number(k)].inside, frame }))]
  return (
    <section aria-label="Parts that moved">
      <h2>Parts that moved</h2>
      <p className={styles.partsNote}>Each is shown whole from one frame. Choose another frame if you prefer that moment.</p>
      <ol className={styles.parts}>
        {parts.map((part, k) => (
          <li key={`${part.inside.x} ${part.inside.y}`}>
            <button type="button" aria-pressed={shown === part} onClick={() => onShow(shown === part ? undefined : part)}>
              Part {k + 1} <small>{significant(part.area_percent, 2)} %</small>
            </button>
            <Select
              aria-label={`Frame that shows part ${k + 1}`}
              value={chosen[k] ?? part.frame}
              onChange={(frame) => setChosen((before) => ({ ...before, [k]: frame }))}
              popupMatchSelectWidth={220}
              options={[
                { value: part.frame, label: `frame ${numberOf(part.frame)}` },
                ...part.others.map(({ frame, detail_percent }) => ({
                  value: frame,
                  label: `frame ${numberOf(frame)}, ${detailText(detail_percent)}`,
                })),
              ]}
            />
          </li>
        ))}
      </ol>
      {changed.length > 0 && (
        <button type="button" className={styles.whole} disabled={again.isPending} onClick={() => fuse({ moments })}>
          Fuse again with {changed.length === 1 ? 'this frame' : 'these frames'}
        </button>
      )}
      <button type="button" className={styles.whole} disabled={again.isPending} onClick={() => fuse({ moving: 'blend', moments: undefined })}>
        Fuse again from all frames
      </button>
    </section>
  )
}

/** How sharp a part is in another frame, beside the sharpest one. */
const detailText = (percent: number) => (percent >= 95 ? 'as sharp' : `${percent} % of the detail`)
