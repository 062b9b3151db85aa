import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import type { Tried } from './tried'
import { bendWithin, motionWithin, type Rectangle } from '@/core/raster'
import { placeOf, type FrameDetail, type Registration, type RenderDetail } from '@/schemas'
import { fetchJson } from '../../api'
import type { PreviewOrder, PreviewReply } from './previewWorker'

/** A previewed part of the picture, in pixels of the reference frame. */
export interface Preview {
  tried: Tried
  area: Rectangle
  url: string
  seconds: number
}

/** Largest part that is previewed, in px. */
const MOST = { width: 640, height: 420 }
/** Read beyond the part on all sides, so that its border is fused like the rest. */
const MARGIN = 24

/** Fuses a part of the picture with another style, in a worker of the browser, by the motions of the render. */
export function usePreview({ id, report }: RenderDetail, frames: (FrameDetail | undefined)[]) {
  const [preview, setPreview] = useState<Preview>()
  const [busy, setBusy] = useState(false)
  const [error, setError] = useState('')
  const worker = useRef<Worker>(undefined)
  const newest = useRef(0)
  const client = useQueryClient()
  useEffect(() => () => worker.current?.terminate(), [])
  useEffect(() => () => URL.revokeObjectURL(preview?.url ?? ''), [preview])

  const make = (tried: Tried, seen: Rectangle, veil: boolean) => {
    worker.current ??= new Worker(new URL('./previewWorker.ts', import.meta.url))
    const width = Math.round(Math.min(MOST.width, seen.width, report.crop.width))
    const height = Math.round(Math.min(MOST.height, seen.height, report.crop.height))
    const middle = (at: number, size: number, part: number, most: number) => Math.round(Math.min(most - part, Math.max(0, at + (size - part) / 2)))
    const area = {
      x: report.crop.x + middle(seen.x, seen.width, width, report.crop.width),
      y: report.crop.y + middle(seen.y, seen.height, height, report.crop.height),
      width,
      height,
    }
    const order = ++newest.current
    setBusy(true)
    setError('')
    worker.current.onmessage = ({ data }: MessageEvent<PreviewReply>) => {
      // Something else was asked for meanwhile.
      if (data.order !== order) return
      setBusy(false)
      if ('error' in data) setError(data.error)
      else setPreview({ tried, area, url: URL.createObjectURL(data.blob), seconds: data.seconds })
    }
    worker.current.onerror = () => {
      setBusy(false)
      setError('This browser cannot fuse on its own. Render the whole picture instead.')
    }
    const registered = client.fetchQuery({
      queryKey: ['registration', id],
      queryFn: () => fetchJson<Registration>(`/api/renders/${id}/registration`),
      staleTime: Infinity,
    })
    registered.then(
      (registration) => worker.current?.postMessage({ order, veil, ...orderOf(tried, area, registration, frames) } satisfies PreviewOrder),
      (cause: Error) => {
        setBusy(false)
        setError(cause.message)
      },
    )
  }
  return { preview, busy, error, make }
}

function orderOf(
  { style, sharp, ...tuning }: Tried,
  { x, y, width, height }: Rectangle,
  registration: Registration,
  all: (FrameDetail | undefined)[],
): Omit<PreviewOrder, 'order' | 'veil'> {
  const part = { x: x - MARGIN, y: y - MARGIN, width: width + 2 * MARGIN, height: height + 2 * MARGIN }
  const frames = registration.frames.flatMap(({ file }, k) => {
    const [frame, place] = [all[k], placeOf(registration, file)]
    const isSharp = !sharp || (k >= sharp.from - 1 && k < sharp.to)
    if (!frame || !place || !isSharp) return []
    const { area, motion } = motionWithin(place.motion, part, frame.width, frame.height)
    const asked = new URLSearchParams({ x: `${area.x}`, y: `${area.y}`, width: `${area.width}`, height: `${area.height}` })
    return [{ url: `/api/frames/${frame.id}/area?${asked}`, motion, bend: place.bend && bendWithin(place.bend, part), gain: place.gain }]
  })
  return { style, tuning, width: part.width, height: part.height, margin: MARGIN, frames }
}
