import { useEffect, useRef, useState } from 'react'
import type { PaintEdit } from '@/core/mend'
import type { Rectangle } from '@/core/raster'
import { bandOrders, orderOf, type MendedRender } from './orders'
import type { PaintReply } from './paintWorker'

/** A painted part of the picture, opaque where it changed. */
export interface PaintedPart extends Rectangle {
  bitmap: ImageBitmap
}

/** The standing edits as pictures to lay over the render, computed in a worker by the code that writes the file. */
export function usePainted(standing: PaintEdit[], render: MendedRender | undefined) {
  const [painted, setPainted] = useState(new Map<string, PaintedPart>())
  const [error, setError] = useState('')
  const worker = useRef<Worker>(undefined)
  /** What each edit was painted over; it is painted anew where that changes. */
  const asked = useRef(new Map<string, string>())
  useEffect(() => () => worker.current?.terminate(), [])
  useEffect(() => {
    if (!render) return
    worker.current ??= new Worker(new URL('./paintWorker.ts', import.meta.url))
    const places = new Map<string, Rectangle>()
    const bands = bandOrders(render)
    for (const order of bands) {
      places.set(order.key, order.cut)
      if (asked.current.has(order.key)) continue
      asked.current.set(order.key, '')
      worker.current.postMessage(order)
    }
    standing.forEach((edit, k) => {
      const order = orderOf(edit, standing.slice(0, k), render)
      if (!order) return
      places.set(edit.id, order.cut)
      const over = [...order.edits.map((each) => each.edit.id), JSON.stringify(render.base)].join()
      if (asked.current.get(edit.id) === over) return
      asked.current.set(edit.id, over)
      worker.current!.postMessage(order)
    })
    const stands = new Set([...standing.map(({ id }) => id), ...bands.map(({ key }) => key)])
    for (const id of asked.current.keys()) if (!stands.has(id)) asked.current.delete(id)
    setPainted((before) => new Map([...before].filter(([id]) => stands.has(id))))
    worker.current.onmessage = ({ data }: MessageEvent<PaintReply>) => {
      if ('error' in data) return setError(data.error)
      const place = places.get(data.key)
      if (place && asked.current.has(data.key)) setPainted((before) => new Map(before).set(data.key, { ...place, bitmap: data.bitmap }))
    }
  }, [standing, render])
  return { painted, error }
}
