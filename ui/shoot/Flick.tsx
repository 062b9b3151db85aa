'use client'

import { significant } from '@/core/units'
import { DeleteButton } from '../DeleteButton'
import type { CSSProperties } from 'react'
import type { UnsharpReport } from '@/core/survey'
import { ROLE_WORDS, UnsharpOverlay, type SortedFrame } from '../survey'
import styles from './shoot.module.css'

interface Props {
  frames: SortedFrame[]
  index: number
  focusText: (position_mm: number) => string
  /** Hatched over the frame, where it is asked for. */
  unsharp?: UnsharpReport
}

/** The chosen frame large, with what it is worth, to flick through the run; its neighbours are fetched ahead. */
export function Flick({ frames, index, focusText, unsharp }: Props) {
  const { number, frame, role, reason } = frames[index]
  const neighbours = [frames[index - 1], frames[index + 1]].filter((near): near is SortedFrame => near !== undefined)
  const { exif } = frame
  const shape = frame.width / frame.height
  const facts = [
    frame.position_mm !== null && `focus ${focusText(frame.position_mm)}`,
    exif?.fNumber && `f/${significant(exif.fNumber, 2)}`,
    exif?.taken_at && new Date(exif.taken_at).toISOString().slice(11, 19),
  ].filter(Boolean)
  return (
    <figure className={styles.flick} style={{ '--shape': shape } as CSSProperties} aria-label="The chosen frame">
      <div className={styles.large} style={{ aspectRatio: shape }}>
        <img src={`/api/frames/${frame.id}/original`} alt={`Frame ${number}, ${frame.name}`} />
        {unsharp && <UnsharpOverlay unsharp={unsharp} className={styles.hatched} />}
      </div>
      <figcaption>
        <strong>Frame {number}</strong> {frame.name}
        <br />
        {ROLE_WORDS[role]} {reason}
        <br />
        {facts.join(' · ')}
        <br />
        <DeleteButton kind="frame" id={frame.id} what={frame.name} />
      </figcaption>
      {neighbours.map(({ frame: { id } }) => (
        <link key={id} rel="prefetch" as="image" href={`/api/frames/${id}/original`} />
      ))}
    </figure>
  )
}
