'use client'

import type { KeyboardEvent, PointerEvent } from 'react'
import type { Place } from './stage'
import styles from './relief.module.css'

interface Props {
  name: string
  /** Where it is seen, 0 … 1 from the upper left. */
  seen: Place
  /** Dragged to a point of the screen. */
  onDrag: (clientX: number, clientY: number) => void
  /** Moved by keys, px of the picture. */
  onNudge: (dx: number, dy: number) => void
}

const WAYS: Record<string, Place> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }
/** So many times as far with Shift. */
const FAR = 10

/** An end of the line that is measured: dragged over the relief, or moved by arrow keys. */
export function Mark({ name, seen: [x, y], onDrag, onNudge }: Props) {
  const onKeyDown = (event: KeyboardEvent) => {
    const way = WAYS[event.key]
    if (!way) return
    event.preventDefault()
    event.stopPropagation()
    const times = event.shiftKey ? FAR : 1
    onNudge(way[0] * times, way[1] * times)
  }
  const follow = (event: PointerEvent) => event.buttons > 0 && onDrag(event.clientX, event.clientY)
  return (
    <button
      type="button"
      className={styles.mark}
      style={{ left: `${100 * x}%`, top: `${100 * y}%` }}
      aria-label={`Place ${name}: drag it, or move it with the arrow keys`}
      onKeyDown={onKeyDown}
      onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
      onPointerMove={follow}
    >
      {name}
    </button>
  )
}
