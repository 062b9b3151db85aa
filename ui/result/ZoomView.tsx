'use client'

import type OpenSeadragon from 'openseadragon'
import { useEffect, useRef, useState } from 'react'
import { FUSED, type Placement } from './placement'
import styles from './result.module.css'

/** A picture for the view: a tile pyramid of the server, or a plain image laid over. */
export interface Layer {
  key: string
  /** Address that builds the pyramid, and the folder its tiles are served from. */
  pyramid?: { prepare: string; tiles: string; width_px: number; height_px: number }
  image?: string
  placement: Placement
}

interface Props {
  layer: Layer
  /** Size of the fused picture, for "100 %". */
  width_px: number
  onZoom?: (percent: number) => void
}

/**
 * The deep-zoom view. Layers are laid on one another at their place and only one is seen at a time, so that going
 * from the fused picture to a frame and back never moves what one looks at.
 */
export function ZoomView({ layer, width_px, onZoom }: Props) {
  const host = useRef<HTMLDivElement>(null)
  const [viewer, setViewer] = useState<OpenSeadragon.Viewer>()
  const [library, setLibrary] = useState<typeof OpenSeadragon>()
  const laid = useRef(new Map<string, Promise<OpenSeadragon.TiledImage>>())
  const [error, setError] = useState('')
  const zoomed = useRef(onZoom)
  useEffect(() => {
    zoomed.current = onZoom
  })

  useEffect(() => {
    let made: OpenSeadragon.Viewer | undefined
    let gone = false
    const images = laid.current
    void import('openseadragon').then(({ default: osd }) => {
      if (gone || !host.current) return
      made = osd({
        element: host.current,
        showNavigationControl: false,
        maxZoomPixelRatio: 8,
        minZoomImageRatio: 0.7,
        visibilityRatio: 0.4,
        animationTime: 0.25,
        drawer: 'canvas',
        imageSmoothingEnabled: true,
        gestureSettingsMouse: { clickToZoom: false, dblClickToZoom: true },
      })
      const tell = () => zoomed.current?.((100 * made!.viewport.getZoom(true) * made!.viewport.getContainerSize().x) / width_px)
      made.addHandler('animation', tell)
      made.addHandler('open', tell)
      setLibrary(() => osd)
      setViewer(made)
    })
    return () => {
      gone = true
      images.clear()
      made?.destroy()
    }
  }, [width_px])

  useEffect(() => {
    if (!viewer || !library) return
    let current = true
    let image = laid.current.get(layer.key)
    if (!image) laid.current.set(layer.key, (image = lay(viewer, library, layer)))
    image.then(
      async (shown) => {
        if (!current) return
        for (const other of laid.current.values())
          void other.then(
            (item) => item !== shown && current && item.setOpacity(0),
            () => {},
          )
        shown.setOpacity(1)
        setError('')
      },
      (cause: Error) => {
        laid.current.delete(layer.key)
        if (current) setError(cause.message)
      },
    )
    return () => {
      current = false
    }
  }, [viewer, library, layer])

  return (
    <div className={styles.zoom}>
      <div ref={host} className={styles.host} data-testid="zoom-view" data-layer={layer.key} />
      {error && <p role="alert">{error}</p>}
      <div className={styles.zoomKeys}>
        <button type="button" onClick={() => viewer?.viewport.zoomTo(width_px / viewer.viewport.getContainerSize().x)}>
          100 %
        </button>
        <button type="button" onClick={() => viewer?.viewport.goHome()}>
          whole
        </button>
      </div>
    </div>
  )
}

async function lay(
  viewer: OpenSeadragon.Viewer,
  library: typeof OpenSeadragon,
  { pyramid, image, placement }: Layer,
): Promise<OpenSeadragon.TiledImage> {
  const first = viewer.world.getItemCount() === 0
  if (pyramid) {
    const prepared = await fetch(pyramid.prepare)
    if (!prepared.ok) throw new Error((await prepared.json()).error)
  }
  const tileSource = pyramid
    ? new library.TileSource({
        width: pyramid.width_px,
        height: pyramid.height_px,
        tileSize: 256,
        tileOverlap: 1,
        maxLevel: Math.ceil(Math.log2(Math.max(pyramid.width_px, pyramid.height_px))),
        getTileUrl: (level: number, x: number, y: number) => `${pyramid.tiles}/${level}/${x}_${y}.jpeg`,
      } as unknown as OpenSeadragon.TileSourceOptions)
    : { type: 'image', url: image }
  return new Promise((resolve, reject) => {
    viewer.addTiledImage({
      tileSource,
      x: placement.x,
      y: placement.y,
      width: placement.width,
      degrees: placement.degrees,
      opacity: 0,
      preload: true,
      success: (event) => {
        const { item } = event as unknown as { item: OpenSeadragon.TiledImage }
        if (first && placement === FUSED) viewer.viewport.goHome(true)
        resolve(item)
      },
      error: () => reject(new Error('This picture cannot be shown; reload the page.')),
    })
  })
}
