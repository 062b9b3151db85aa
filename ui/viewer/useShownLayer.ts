import type OpenSeadragon from 'openseadragon'
import { useEffect, useRef, useState } from 'react'
import { lay, type Layer } from './layers'
import type { Viewing } from './useViewer'
import type { ViewLink } from './viewLink'

/**
 * Shows one layer at a time; those shown before stay laid, so that going back is at once. Answers whether the first one is
 * there (the view has its place then), and why nothing is shown.
 */
export function useShownLayer(viewing: Viewing | undefined, layer: Layer, link?: ViewLink): { ready: boolean; error: string } {
  const laid = useRef(new Map<string, Promise<OpenSeadragon.TiledImage>>())
  const [error, setError] = useState('')
  const [ready, setReady] = useState(false)

  // Layers belong to their viewer.
  useEffect(() => {
    const images = laid.current
    return () => {
      images.clear()
      setReady(false)
    }
  }, [viewing])

  useEffect(() => {
    if (!viewing) return
    let current = true
    let image = laid.current.get(layer.key)
    if (!image) laid.current.set(layer.key, (image = lay(viewing.viewer, viewing.library, layer)))
    image.then(
      async (shown) => {
        if (!current) return
        for (const [key, other] of laid.current)
          void other.then(
            (item) => item !== shown && current && item.setOpacity(key === layer.over ? 1 : 0),
            () => {},
          )
        shown.setOpacity(1)
        link?.follow(viewing.viewer)
        setError('')
        setReady(true)
      },
      (cause: Error) => {
        laid.current.delete(layer.key)
        if (!current) return
        setError(cause.message)
        setReady(true)
      },
    )
    return () => {
      current = false
    }
  }, [viewing, layer, link])
  return { ready, error }
}
