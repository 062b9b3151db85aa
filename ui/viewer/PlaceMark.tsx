'use client'

import { useEffect, useRef } from 'react'
import type { Rectangle } from '@/core/raster'
import { followView } from './followView'
import { goToFullSize } from './fullSize'
import { useViewing } from './Viewer'
import styles from './viewer.module.css'

/** A place that is looked at: the view goes there at 100 %, and its corners are marked. */
export function PlaceMark({ place, width_px }: { place?: Rectangle; width_px: number }) {
  const viewing = useViewing()
  const mark = useRef<HTMLDivElement>(null)
  useEffect(() => {
    if (!viewing || !place) return
    const { viewer, library } = viewing
    goToFullSize(viewing, width_px, { x: place.x + place.width / 2, y: place.y + place.height / 2 })
    const lay = () => {
      if (!mark.current) return
      const at = (x: number, y: number) => viewer.viewport.pixelFromPoint(new library.Point(x / width_px, y / width_px), true)
      const [from, to] = [at(place.x, place.y), at(place.x + place.width, place.y + place.height)]
      Object.assign(mark.current.style, { left: `${from.x}px`, top: `${from.y}px`, width: `${to.x - from.x}px`, height: `${to.y - from.y}px` })
    }
    return followView(viewer, lay)
  }, [viewing, place, width_px])
  return place ? (
    <div ref={mark} className={styles.place} data-testid="place-mark" aria-hidden>
      <i />
    </div>
  ) : null
}
