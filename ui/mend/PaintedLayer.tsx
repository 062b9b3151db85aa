'use client'

import { useEffect, useRef } from 'react'
import { followView, useViewing } from '../viewer'
import type { PaintedPart } from './usePainted'
import styles from './mend.module.css'

interface Props {
  parts: PaintedPart[]
  width_px: number
  /** The untouched picture is looked at. */
  hidden: boolean
}

/** What was painted, at its place over the picture. */
export function PaintedLayer({ parts, width_px, hidden }: Props) {
  const viewing = useViewing()
  const canvas = useRef<HTMLCanvasElement>(null)
  useEffect(() => {
    if (!viewing) return
    const { viewer, library } = viewing
    const draw = () => {
      const target = canvas.current
      if (!target) return
      const { x: width, y: height } = viewer.viewport.getContainerSize()
      const dense = window.devicePixelRatio
      if (target.width !== width * dense || target.height !== height * dense) Object.assign(target, { width: width * dense, height: height * dense })
      const context = target.getContext('2d')!
      context.setTransform(dense, 0, 0, dense, 0, 0)
      context.clearRect(0, 0, width, height)
      if (hidden) return
      for (const { x, y, width: w, height: h, bitmap } of parts) {
        // A pixel's middle stands for it: its corner lies half a pixel before.
        const from = viewer.viewport.pixelFromPoint(new library.Point(x / width_px, y / width_px), true)
        const to = viewer.viewport.pixelFromPoint(new library.Point((x + w) / width_px, (y + h) / width_px), true)
        if (to.x < 0 || to.y < 0 || from.x > width || from.y > height) continue
        context.drawImage(bitmap, from.x, from.y, to.x - from.x, to.y - from.y)
      }
    }
    return followView(viewer, draw)
  }, [viewing, parts, width_px, hidden])
  return <canvas ref={canvas} className={styles.painted} aria-hidden />
}
