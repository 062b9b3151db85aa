'use client'

import { Modal } from 'antd'
import { useState } from 'react'
import type { MendBase } from '@/core/mend'
import { depthCss, rampPlace } from '@/core/ramp'
import { fetchJson } from '../api'
import type { NamedFrame } from '../namedFrames'
import { thumbAddress } from '../thumbAddress'
import styles from './mend.module.css'

interface Props {
  renderId: number
  frames: NamedFrame[]
  width_px: number
  onBegin: (base: MendBase) => void
  onClose: () => void
}

const [LEAST, MOST] = [2, 8]
/** A line changes from one frame to the next over this part of the picture's width. */
const WIDE = 0.02

/** Composing by hand: one frame to paint on, or two to eight with lines between them, laid by the measured depth. */
export function Compose({ renderId, frames, width_px, onBegin, onClose }: Props) {
  const [chosen, setChosen] = useState<number[]>(() => (frames.length <= MOST ? frames.map((_, k) => k) : evenly(frames.length, 4)))
  const [error, setError] = useState('')
  const toggle = (index: number) =>
    setChosen((before) => (before.includes(index) ? before.filter((k) => k !== index) : [...before, index].sort((a, b) => a - b)))
  const begin = async () => {
    if (chosen.length === 1) return onBegin({ frame: frames[chosen[0]].file })
    try {
      // Midway between each two frames, from the nearest on.
      const cuts = chosen.slice(1).map((index, k) => (index + chosen[k]) / 2 / (frames.length - 1))
      const { lines } = await fetchJson<{ lines: [number, number][][] }>(
        `/api/renders/${renderId}/lines?depths=${cuts.map((cut) => cut.toFixed(4)).join()}`,
      )
      const wide = Math.max(8, Math.round(WIDE * width_px))
      onBegin({ boundaries: chosen.map((index, k) => ({ frame: frames[index].file, ...(k < lines.length && { until: lines[k], width_px: wide }) })) })
    } catch (cause) {
      setError((cause as Error).message)
    }
  }
  return (
    <Modal
      open
      title="Compose by hand"
      okText={chosen.length === 1 ? 'Begin with this frame' : 'Lay the lines'}
      okButtonProps={{ disabled: chosen.length < 1 || chosen.length > MOST }}
      onOk={() => void begin()}
      onCancel={onClose}
    >
      <p>
        Choose {LEAST} to {MOST} frames, near to far. Lines between them are laid by the measured depth, from the bottom of the picture upwards; you
        drag them afterwards. With one frame you begin with that frame and paint in the others.
      </p>
      <ul className={styles.chosen}>
        {frames.map(({ number, file, frame }, index) => (
          <li key={file}>
            <button
              type="button"
              disabled={!frame}
              aria-pressed={chosen.includes(index)}
              onClick={() => toggle(index)}
              style={{ borderBottomColor: depthCss(rampPlace(index, frames.length)) }}
            >
              {frame && <img src={thumbAddress(frame)} alt="" />}
              {number}
            </button>
          </li>
        ))}
      </ul>
      {error && <p role="alert">▲ {error}</p>}
    </Modal>
  )
}

const evenly = (count: number, many: number) => [...new Set(Array.from({ length: many }, (_, k) => Math.round((k * (count - 1)) / (many - 1))))]
