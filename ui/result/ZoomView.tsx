'use client'

import type OpenSeadragon from 'openseadragon'
import { useEffect, useRef, useState } from 'react'
import type { Rectangle } from '@/core/raster'
import { FUSED, type Placement } from './placement'
import styles from './result.module.css'
import type { ViewLink } from './viewLink'

/** A picture for the view: a tile pyramid of the server, or a plain image laid over. */
export interface Layer {
  key: string
  /** Address that builds the pyramid, and the folder its tiles are served from. */
  pyramid?: { prepare: string; tiles: string; width_px: number; height_px: number }
  image?: string
  /** Why there is nothing to show. */
  missing?: string
  placement: Placement
  /** Key of a layer that stays visible beneath. */
  over?: string
}

/** What part of the fused picture is seen, in its px, and how large. */
export interface View extends Rectangle {
  percent: number
}

interface Props {
  layer: Layer
  /** Shown right of a line that is drawn through the view, for comparing. */
  beside?: Layer
  /** Size of the fused picture, for "100 %". */
  width_px: number
  onView?: (view: View) => void
  /** Views that show the same place. */
  link?: ViewLink
}

/**
 * The deep-zoom view. Layers are laid on one another at their place and only one is seen at a time, so that going
 * from the fused picture to a frame and back never moves what one looks at.
 */
export function ZoomView({ layer, beside, width_px, onView, link }: Props) {
  const host = useRef<HTMLDivElement>(null)
  const [viewer, setViewer] = useState<OpenSeadragon.Viewer>()
  const [library, setLibrary] = useState<typeof OpenSeadragon>()
  const laid = useRef(new Map<string, Promise<OpenSeadragon.TiledImage>>())
  const [error, setError] = useState('')
  const seen = useRef(onView)
  useEffect(() => {
    seen.current = onView
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
      const tell = () => {
        const { x, y, width, height } = made!.viewport.getBounds(true)
        const percent = (100 * made!.viewport.getZoom(true) * made!.viewport.getContainerSize().x) / width_px
        seen.current?.({ percent, x: x * width_px, y: y * width_px, width: width * width_px, height: height * width_px })
      }
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
        for (const [key, other] of laid.current)
          void other.then(
            (item) => item !== shown && current && item.setOpacity(key === layer.over ? 1 : 0),
            () => {},
          )
        shown.setOpacity(1)
        link?.follow(viewer)
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
  }, [viewer, library, layer, link])

  useEffect(() => (viewer && link ? link.join(viewer) : undefined), [viewer, link])

  const [split, setSplit] = useState(50)
  useBeside(viewer, library, beside, split)
  useEffect(() => {
    if (!beside) return
    // One key shows all of the one, all of the other.
    const onKey = ({ key, ctrlKey, metaKey }: KeyboardEvent) => key === 'c' && !ctrlKey && !metaKey && setSplit((now) => (now > 50 ? 0 : 100))
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [beside])

  const go = (where: (viewer: OpenSeadragon.Viewer) => unknown) => {
    if (!viewer) return
    link?.lead(viewer)
    where(viewer)
  }

  return (
    <div className={styles.zoom}>
      <div ref={host} className={styles.host} data-testid="zoom-view" data-layer={layer.key} />
      {beside && (
        <>
          <i className={styles.line} style={{ left: `${split}%` }} />
          <input
            type="range"
            className={styles.split}
            aria-label="Where the two renders meet"
            min={0}
            max={100}
            value={split}
            onChange={({ target }) => setSplit(Number(target.value))}
          />
        </>
      )}
      {error && <p role="alert">{error}</p>}
      <div className={styles.zoomKeys}>
        <button type="button" onClick={() => go(({ viewport }) => viewport.zoomTo(width_px / viewport.getContainerSize().x))}>
          100 %
        </button>
        <button type="button" onClick={() => go(({ viewport }) => viewport.goHome())}>
          whole
        </button>
      </div>
    </div>
  )
}

/** Lays another picture over the view, right of a line at so many percent of its width. */
function useBeside(
  viewer: OpenSeadragon.Viewer | undefined,
  library: typeof OpenSeadragon | undefined,
  beside: Layer | undefined,
  split: number,
): void {
  const [item, setItem] = useState<OpenSeadragon.TiledImage>()
  useEffect(() => {
    if (!viewer || !library || !beside) return
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
  }, [viewer, library, beside])
  useEffect(() => {
    if (!viewer || !library || !item) return
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
  }, [viewer, library, item, split])
}

async function lay(
  viewer: OpenSeadragon.Viewer,
  library: typeof OpenSeadragon,
  { pyramid, image, missing, placement }: Layer,
): Promise<OpenSeadragon.TiledImage> {
  if (missing) throw new Error(missing)
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
      error: () => reject(new Error('This picture cannot be shown. Load the page again.')),
    })
  })
}
