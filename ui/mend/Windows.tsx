'use client'

import { depthCss, rampPlace } from '@/core/ramp'
import type { NamedFrame } from '../namedFrames'
import { placeInFrame, type MendedRender } from './orders'
import styles from './mend.module.css'

interface Props {
  /** The place that is looked at, in px of the picture. */
  at?: { x: number; y: number }
  render: MendedRender
  frames: NamedFrame[]
  /** The frame that the picture shows there. */
  inUse?: number
  chosen?: number
  onChoose: (index: number) => void
}

/** A window shows so much of a frame, in its px, and no more of them than this. */
const [WIDE_px, HIGH_px] = [84, 62]
const MOST = 14

/** The same spot in every frame, each window on its slice of the depth ribbon; the one in use is marked. A donor is chosen by looking. */
export function Windows({ at, render, frames, inUse, chosen, onChoose }: Props) {
  const from = firstShown(frames.length, chosen ?? inUse ?? 0)
  return (
    <ol className={styles.windows} aria-label="The same spot in every frame">
      {frames.slice(from, from + MOST).map(({ number, file, frame }, k) => {
        const index = from + k
        const place = at && frame && placeInFrame(at.x, at.y, file, render)
        const part =
          place && new URLSearchParams({ x: `${place.x - WIDE_px / 2}`, y: `${place.y - HIGH_px / 2}`, width: `${WIDE_px}`, height: `${HIGH_px}` })
        return (
          <li key={file} style={{ borderBottomColor: depthCss(rampPlace(index, frames.length)) }}>
            <button
              type="button"
              disabled={!frame}
              aria-pressed={index === chosen}
              aria-label={`Paint from frame ${number}, ${file}${index === inUse ? ', which is shown there' : ''}`}
              onClick={() => onChoose(index)}
            >
              {part ? <img src={`/api/frames/${frame.id}/area?${part}`} alt="" width={WIDE_px} height={HIGH_px} /> : <i />}
              <span>
                {number}
                {index === inUse && ' ◂'}
              </span>
            </button>
          </li>
        )
      })}
    </ol>
  )
}

/** The windows around the one that matters, where not all have room. */
function firstShown(count: number, middle: number): number {
  return Math.max(0, Math.min(count - MOST, middle - (MOST >> 1)))
}
