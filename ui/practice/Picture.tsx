'use client'

import { useEffect, useRef, useState, type MouseEvent, type ReactNode } from 'react'
import type { Rectangle } from '@/core/raster'
import { PICTURE } from '@/core/practice'
import styles from './practice.module.css'

interface Props {
  bitmap?: ImageBitmap
  label: string
  /** Said while there is nothing to show. */
  waiting?: string
  /** So many times enlarged about a place of the picture, in its px. */
  magnified?: { times: number; x: number; y: number }
  /** How bright it is shown, 1 as it is. */
  brightness?: number
  onPick?: (x: number, y: number) => void
  /** Lies over it, in a drawing of the picture's size. */
  children?: ReactNode
}

/** A picture of an exercise, on the table. */
export function Picture({ bitmap, label, waiting = 'The picture is being taken…', magnified, brightness = 1, onPick, children }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const { x, y, width, height } = partOf(bitmap, magnified)
  useEffect(() => {
    const target = canvas.current
    if (!target || !bitmap) return
    const context = target.getContext('2d')!
    context.imageSmoothingQuality = 'high'
    context.drawImage(bitmap, x, y, width, height, 0, 0, target.width, target.height)
  }, [bitmap, x, y, width, height])
  const pick = (event: MouseEvent<HTMLElement>) => {
    const box = event.currentTarget.getBoundingClientRect()
    onPick?.(x + ((event.clientX - box.left) / box.width) * width, y + ((event.clientY - box.top) / box.height) * height)
  }
  return (
    <div className={styles.picture} onClick={pick} data-picks={onPick !== undefined}>
      <canvas
        ref={canvas}
        role="img"
        aria-label={label}
        data-there={bitmap !== undefined}
        width={2 * PICTURE.width_px}
        height={2 * PICTURE.height_px}
        style={{ filter: `brightness(${brightness})` }}
      />
      {bitmap && (
        <svg viewBox={`${x} ${y} ${width} ${height}`} aria-hidden>
          {children}
        </svg>
      )}
      {!bitmap && <p role="status">{waiting}</p>}
    </div>
  )
}

/** The part of a picture that is seen through a magnifier, or all of it. */
function partOf(bitmap: ImageBitmap | undefined, magnified: Props['magnified']): Rectangle {
  const { width, height } = bitmap ?? { width: PICTURE.width_px, height: PICTURE.height_px }
  if (!magnified) return { x: 0, y: 0, width, height }
  const [w, h] = [width / magnified.times, height / magnified.times]
  const within = (at: number, most: number) => Math.min(most, Math.max(0, at))
  return { x: within(magnified.x - w / 2, width - w), y: within(magnified.y - h / 2, height - h), width: w, height: h }
}

const MAGNIFIER = 4

/** A magnifier that a click sets down and lifts again, M too. */
export function useMagnifier() {
  const [at, setAt] = useState<{ x: number; y: number }>()
  useEffect(() => {
    const onKey = ({ key, ctrlKey, metaKey }: KeyboardEvent) => {
      if (key === 'm' && !ctrlKey && !metaKey) setAt((before) => (before ? undefined : { x: PICTURE.width_px / 2, y: PICTURE.height_px / 2 }))
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [])
  return {
    magnified: at && { times: MAGNIFIER, ...at },
    onPick: (x: number, y: number) => setAt((before) => (before ? undefined : { x, y })),
  }
}
