'use client'

import type OpenSeadragon from 'openseadragon'
import { createContext, useContext, useEffect, useRef, type ReactNode } from 'react'
import { goToFullSize } from './fullSize'
import type { Layer } from './layers'
import { useShownLayer } from './useShownLayer'
import { useViewer, type View, type Viewing } from './useViewer'
import styles from './viewer.module.css'
import type { ViewLink } from './viewLink'

interface Props {
  layer: Layer
  /** Width of the fused picture, for "100 %". */
  width_px: number
  onView?: (view: View) => void
  /** A place of the picture was clicked, in px of the fused one. */
  onPick?: (x: number, y: number) => void
  /** What the picture is, for those who do not see it. */
  label?: string
  /** Views that show the same place. */
  link?: ViewLink
  /** What lies over the picture; it finds the viewer by `useViewing`. */
  children?: ReactNode
}

const ViewingContext = createContext<Viewing | undefined>(undefined)

/** The viewer that a part of the screen lies over; undefined until its first picture is laid, which moves the view to its place. */
export const useViewing = () => useContext(ViewingContext)

/**
 * The deep-zoom view. Layers are laid on one another at their place and only one is seen at a time, so that going
 * from the fused picture to a frame and back never moves what one looks at.
 */
export function Viewer({ layer, width_px, onView, onPick, label, link, children }: Props) {
  const host = useRef<HTMLDivElement>(null)
  const viewing = useViewer(host, width_px, onView)
  const { ready, error } = useShownLayer(viewing, layer, link)
  useEffect(() => (viewing && link ? link.join(viewing.viewer) : undefined), [viewing, link])

  useEffect(() => {
    if (!viewing || !onPick) return
    const { viewer } = viewing
    const click = ({ quick, position }: OpenSeadragon.CanvasClickEvent) => {
      // A drag ends in a click, too.
      if (!quick) return
      const { x, y } = viewer.viewport.pointFromPixel(position, true)
      onPick(x * width_px, y * width_px)
    }
    viewer.addHandler('canvas-click', click)
    return () => viewer.removeHandler('canvas-click', click)
  }, [viewing, onPick, width_px])
  // The canvas takes the keys: it is what has to be named.
  useEffect(() => viewing?.viewer.canvas.setAttribute('aria-label', `${label ?? 'Picture'}. Drag to move, + and − to zoom.`), [viewing, label])

  const go = (where: (viewer: OpenSeadragon.Viewer) => unknown) => {
    if (!viewing) return
    link?.lead(viewing.viewer)
    where(viewing.viewer)
  }

  return (
    <div className={styles.zoom}>
      <div ref={host} className={styles.host} data-testid="zoom-view" data-layer={layer.key} />
      <ViewingContext.Provider value={ready ? viewing : undefined}>{children}</ViewingContext.Provider>
      {error && <p role="alert">{error}</p>}
      <div className={styles.zoomKeys}>
        <button type="button" disabled={!ready} onClick={() => go(() => goToFullSize(viewing!, width_px))}>
          100 %
        </button>
        <button type="button" disabled={!ready} onClick={() => go(({ viewport }) => viewport.goHome())}>
          whole
        </button>
      </div>
    </div>
  )
}
