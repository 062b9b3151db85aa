'use client'

import type OpenSeadragon from 'openseadragon'
import { useEffect, useRef } from 'react'
import type { BoundaryFrame } from '@/core/mend'
import { lay, useViewing, type Layer } from '../viewer'

/** A frame of a composed picture, as the view lays it, and the line up to which it is shown. */
export interface ComposedFrame extends BoundaryFrame {
  layer: Layer
}

/** The frames of a composed picture laid over one another, the top one first, each below its line. */
export function ComposedLayers({ frames, width_px, height_px }: { frames: ComposedFrame[]; width_px: number; height_px: number }) {
  const viewing = useViewing()
  const laid = useRef(new Map<string, Promise<OpenSeadragon.TiledImage>>())
  useEffect(() => {
    if (!viewing) return
    const { viewer, library } = viewing
    let current = true
    void Promise.all(
      [...frames].reverse().map(async ({ layer, until }, k) => {
        const known = laid.current.get(layer.key) ?? lay(viewer, library, layer)
        laid.current.set(layer.key, known)
        const item = await known
        if (!current) return
        // Above the fused picture, and under what is laid later.
        viewer.world.setItemIndex(item, Math.min(viewer.world.getItemCount() - 1, k + 1))
        item.setOpacity(1)
        // The picture and no more of the frame than it holds.
        const [right, bottom] = [width_px - 0.5, height_px - 0.5]
        const line = until ?? [[-0.5, -0.5]]
        const below = [[-0.5, line[0][1]], ...line, [right, line.at(-1)![1]], [right, bottom], [-0.5, bottom]]
        const inside = below.map(([x, y]) => item.viewportToImageCoordinates(new library.Point((x + 0.5) / width_px, (y + 0.5) / width_px)))
        item.setCroppingPolygons([inside.map(({ x, y }) => ({ x, y }))] as never)
        viewer.forceRedraw()
      }),
    ).catch(() => undefined)
    const images = laid.current
    return () => {
      current = false
      for (const image of images.values()) void image.then((item) => item.setOpacity(0)).catch(() => undefined)
    }
  }, [viewing, frames, width_px, height_px])
  return null
}
