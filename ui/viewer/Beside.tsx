'use client'

import type OpenSeadragon from 'openseadragon'
import { useEffect, useState } from 'react'
import { lay, type Layer } from './layers'
import type { Viewing } from './useViewer'
import { useViewing } from './Viewer'
import styles from './viewer.module.css'

/** Another picture right of a line through the view, for comparing. The line is dragged; C shows all of the one, all of the other. */
export function Beside({ layer, label }: { layer: Layer; label: string }) {
  const [split, setSplit] = useState(50)
  useBeside(useViewing(), layer, split)
  useEffect(() => {
    const onKey = ({ key, ctrlKey, metaKey }: KeyboardEvent) => key === 'c' && !ctrlKey && !metaKey && setSplit((now) => (now > 50 ? 0 : 100))
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [])
  return (
    <>
      <i className={styles.line} style={{ left: `${split}%` }} />
      <input
        type="range"
        className={styles.split}
        aria-label={label}
        min={0}
        max={100}
        value={split}
        onChange={({ target }) => setSplit(Number(target.value))}
      />
    </>
  )
}

/** Lays another picture over the view, right of a line at so many percent of its width. */
function useBeside(viewing: Viewing | undefined, beside: Layer, split: number): void {
  const [item, setItem] = useState<OpenSeadragon.TiledImage>()
  useEffect(() => {
    if (!viewing) return
    const { viewer, library } = viewing
    let gone = false
    let laid: OpenSeadragon.TiledImage | undefined
    void lay(viewer, library, beside).then((image) => {
      laid = image
      if (gone) viewer.world.removeItem(image)
      else setItem(image)
    })
    return () => {
      gone = true
      setItem(undefined)
      if (laid && viewer.world) viewer.world.removeItem(laid)
    }
  }, [viewing, beside])
  useEffect(() => {
    if (!viewing || !item) return
    const { viewer, library } = viewing
    const clip = () => {
      const { x, y } = viewer.viewport.getContainerSize()
      const meets = viewer.viewport.pointFromPixel(new library.Point((x * split) / 100, y / 2), true)
      const { x: left } = item.viewportToImageCoordinates(meets)
      const { x: width, y: height } = item.getContentSize()
      const from = Math.min(width, Math.max(0, left))
      item.setClip(new library.Rect(from, 0, Math.max(0.001, width - from), height))
    }
    viewer.world.setItemIndex(item, viewer.world.getItemCount() - 1)
    item.setOpacity(1)
    clip()
    viewer.addHandler('update-viewport', clip)
    return () => viewer.removeHandler('update-viewport', clip)
  }, [viewing, item, split])
}
