import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { bendFrom, type BendsFile } from '@/core/formats'
import { bendWithin, motionWithin, type Rectangle } from '@/core/raster'
import { gainOf } from '@/core/register'
import type { FrameDetail, FuseReport, RenderDetail } from '@/schemas'
import { fetchJson } from '../../api'
import type { PreviewOrder, PreviewReply } from './previewWorker'

/** A previewed part of the picture, in pixels of the reference frame. */
export interface Preview {
  style: string
  area: Rectangle
  url: string
  seconds: number
}

/** Largest part that is previewed, in px. */
const MOST = { width: 640, height: 420 }
/** Read beyond the part on all sides, so that its border is fused like the rest. */
const MARGIN = 24

/** Fuses a part of the picture with another style, in a worker of the browser, by the motions of the render. */
export function usePreview({ id, report }: RenderDetail, frames: FrameDetail[]) {
  const [preview, setPreview] = useState<Preview>()
  const [busy, setBusy] = useState(false)
  const [error, setError] = useState('')
  const worker = useRef<Worker>(undefined)
  const client = useQueryClient()
  useEffect(() => () => worker.current?.terminate(), [])
  useEffect(() => () => URL.revokeObjectURL(preview?.url ?? ''), [preview])

  const make = (style: string, seen: Rectangle) => {
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
    setBusy(true)
    setError('')
    worker.current.onmessage = ({ data }: MessageEvent<PreviewReply>) => {
      setBusy(false)
      if ('error' in data) setError(data.error)
      else setPreview({ style, area, url: URL.createObjectURL(data.blob), seconds: data.seconds })
    }
    worker.current.onerror = () => {
      setBusy(false)
      setError('This browser cannot fuse by itself; render the whole picture instead.')
    }
    const bent = report.frames.some(({ bent_px }) => bent_px)
      ? client.fetchQuery({ queryKey: ['bends', id], queryFn: () => fetchJson<BendsFile>(`/api/renders/${id}/bends`), staleTime: Infinity })
      : Promise.resolve(undefined)
    bent.then(
      (bends) => worker.current?.postMessage(orderOf(style, area, report, frames, bends)),
      (cause: Error) => {
        setBusy(false)
        setError(cause.message)
      },
    )
  }
  return { preview, busy, error, make }
}

function orderOf(style: string, { x, y, width, height }: Rectangle, report: FuseReport, frames: FrameDetail[], bends?: BendsFile): PreviewOrder {
  const part = { x: x - MARGIN, y: y - MARGIN, width: width + 2 * MARGIN, height: height + 2 * MARGIN }
  const byName = new Map(frames.map((frame) => [frame.name, frame]))
  const used = report.frames.filter(({ role, file }) => role !== 'left out' && byName.has(file))
  return {
    style,
    width: part.width,
    height: part.height,
    margin: MARGIN,
    frames: used.map(({ file, scale, rotation_deg, dx_px, dy_px, gain_ev }) => {
      const frame = byName.get(file)!
      const motion = { scale, rotation_rad: (rotation_deg * Math.PI) / 180, dx_px, dy_px }
      const within = motionWithin(motion, part, frame.width, frame.height)
      const { area } = within
      const asked = new URLSearchParams({ x: `${area.x}`, y: `${area.y}`, width: `${area.width}`, height: `${area.height}` })
      const bend = bends && bendFrom(bends, file)
      return { url: `/api/frames/${frame.id}/area?${asked}`, motion: within.motion, bend: bend && bendWithin(bend, part), gain: gainOf(gain_ev) }
    }),
  }
}
