import type OpenSeadragon from 'openseadragon'
import { useEffect, useRef, useState, type RefObject } from 'react'
import type { Rectangle } from '@/core/raster'

/** What part of the fused picture is seen, in its px, and how large. */
export interface View extends Rectangle {
  percent: number
}

/** A deep-zoom viewer and the library it came from, which is fetched when the first one is shown. */
export interface Viewing {
  viewer: OpenSeadragon.Viewer
  library: typeof OpenSeadragon
}

/** Makes a viewer in `host`; `width_px` is the width of the fused picture, for percent. */
export function useViewer(host: RefObject<HTMLDivElement | null>, width_px: number, onView?: (view: View) => void): Viewing | undefined {
  const [viewing, setViewing] = useState<Viewing>()
  const seen = useRef(onView)
  useEffect(() => {
    seen.current = onView
  })
  useEffect(() => {
    let made: OpenSeadragon.Viewer | undefined
    let gone = false
    void import('openseadragon').then(({ default: library }) => {
      if (gone || !host.current) return
      const viewer = library({
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
      made = viewer
      const tell = () => {
        const { x, y, width, height } = viewer.viewport.getBounds(true)
        const percent = (100 * viewer.viewport.getZoom(true) * viewer.viewport.getContainerSize().x) / width_px
        seen.current?.({ percent, x: x * width_px, y: y * width_px, width: width * width_px, height: height * width_px })
      }
      viewer.addHandler('animation', tell)
      viewer.addHandler('open', tell)
      // The library's own letters turn, mirror and pan the picture; letters are for the screens.
      viewer.addHandler('canvas-key', (event) => {
        if ((event.originalEvent as KeyboardEvent).code.startsWith('Key')) event.preventDefaultAction = true
      })
      setViewing({ viewer, library })
    })
    return () => {
      gone = true
      setViewing(undefined)
      made?.destroy()
    }
  }, [host, width_px])
  return viewing
}
