'use client'

import { useRef, type KeyboardEvent } from 'react'
import { depthCss } from '@/core/ramp'
import { ROLE_WORDS, type SortedFrame } from '../survey'
import { thumbAddress } from '../thumbAddress'
import styles from './shoot.module.css'

interface Props {
  frames: SortedFrame[]
  /** Place of each on the depth ramp. */
  places: number[]
  selected?: number
  focusText: (position_mm: number) => string
  onSelect: (index: number) => void
  onToggle: (frame: SortedFrame) => void
}

/** The frames of a run. One stop for the tab key; the arrows go from frame to frame, X leaves the focused one out or uses it again. */
export function FrameList({ frames, places, selected, focusText, onSelect, onToggle }: Props) {
  const list = useRef<HTMLUListElement>(null)
  const onKey = (event: KeyboardEvent) => {
    const here = Number((event.target as HTMLElement).closest<HTMLElement>('[data-index]')?.dataset.index ?? 0)
    const ends: Record<string, number> = { ArrowRight: here + 1, ArrowLeft: here - 1, Home: 0, End: frames.length - 1 }
    const next = ends[event.key]
    if (next !== undefined) {
      event.preventDefault()
      const index = Math.min(frames.length - 1, Math.max(0, next))
      onSelect(index)
      list.current?.querySelectorAll<HTMLButtonElement>('[data-frame]')[index]?.focus()
    } else if (event.key.toLowerCase() === 'x' && !event.ctrlKey && !event.metaKey) {
      event.preventDefault()
      onToggle(frames[here])
    }
  }
  const stop = selected !== undefined && selected < frames.length ? selected : 0
  return (
    <>
      <ul
        className={styles.frames}
        ref={list}
        onKeyDown={onKey}
        aria-label="Frames: arrows go from one to the next, X leaves one out or uses it again"
      >
        {frames.map((sorted, index) => (
          <Frame
            key={sorted.frame.id}
            sorted={sorted}
            index={index}
            depth={places[index]}
            chosen={index === selected}
            stop={index === stop}
            focusText={focusText}
            onSelect={() => onSelect(index)}
            onToggle={() => onToggle(sorted)}
          />
        ))}
      </ul>
      <p className={styles.keys}>Keys on the frames: ← → go from one to the next, X leaves a frame out or uses it again. Nothing is deleted.</p>
    </>
  )
}

interface FrameProps {
  sorted: SortedFrame
  index: number
  depth: number
  chosen: boolean
  /** The one frame that the tab key stops at. */
  stop: boolean
  focusText: (position_mm: number) => string
  onSelect: () => void
  onToggle: () => void
}

function Frame({ sorted: { number, frame, role, reason, used }, index, depth, chosen, stop, focusText, onSelect, onToggle }: FrameProps) {
  const classes = [chosen ? styles.chosen : '', used ? '' : styles.out].filter(Boolean).join(' ')
  return (
    <li style={{ borderTopColor: depthCss(depth) }} className={classes || undefined} data-role={role} data-index={index}>
      <button type="button" data-frame tabIndex={stop ? 0 : -1} onClick={onSelect} title={`${frame.name} · SHA-256 ${frame.sha256.slice(0, 12)}…`}>
        <img src={thumbAddress(frame)} alt={`Frame ${number}, ${frame.name}`} loading="lazy" />
        <span>
          {number}
          {frame.position_mm !== null && <em>{focusText(frame.position_mm)}</em>}
        </span>
        <small>{frame.name}</small>
      </button>
      {(role !== 'use' || reason) && (
        <p className={styles.role}>
          <strong>{ROLE_WORDS[role]}</strong> {reason}
        </p>
      )}
      <button
        type="button"
        className={styles.aside}
        tabIndex={-1}
        onClick={onToggle}
        aria-label={`${used ? 'Leave out' : 'Use again'} frame ${number}, ${frame.name}`}
      >
        {used ? 'Leave out' : 'Use again'}
      </button>
    </li>
  )
}
