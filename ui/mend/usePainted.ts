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
  const places = useRef(new Map<string, Rectangle>())
  /** What was looked through before: of edits that stand as they stood nothing is asked again. */
  const before = useRef<{ standing: PaintEdit[]; render?: MendedRender }>({ standing: [] })
  useEffect(() => () => worker.current?.terminate(), [])
  useEffect(() => {
    if (!render) return
    worker.current ??= new Worker(new URL('./paintWorker.ts', import.meta.url))
    const bands = bandOrders(render)
    for (const order of bands) {
      places.current.set(order.key, order.cut)
      if (asked.current.has(order.key)) continue
      asked.current.set(order.key, '')
      worker.current.postMessage(order)
    }
    const same = before.current.render === render ? alike(before.current.standing, standing) : 0
    before.current = { standing, render }
    standing.slice(same).forEach((edit, k) => {
      const order = orderOf(edit, standing.slice(0, same + k), render)
      if (!order) return
      places.current.set(edit.id, order.cut)
      const over = [...order.edits.map((each) => each.edit.id), JSON.stringify(render.base)].join()
      if (asked.current.get(edit.id) === over) return
      asked.current.set(edit.id, over)
      worker.current!.postMessage(order)
    })
    // Each shows the edits before it as well, so that the newer one lies above.
    const upwards = [...bands.map(({ key }) => key), ...standing.map(({ id }) => id)]
    const inOrder = (parts: Map<string, PaintedPart>) => new Map(upwards.flatMap((id) => (parts.has(id) ? [[id, parts.get(id)!] as const] : [])))
    const stands = new Set(upwards)
    for (const id of asked.current.keys()) if (!stands.has(id)) asked.current.delete(id)
    setPainted(inOrder)
    const come = new Map<string, PaintedPart>()
    worker.current.onmessage = ({ data }: MessageEvent<PaintReply>) => {
      if ('error' in data) return setError(data.error)
      const place = places.current.get(data.key)
      if (!place || !asked.current.has(data.key)) return
      // What comes between two pictures of the screen is shown together.
      if (come.size === 0)
        requestAnimationFrame(() => {
          const together = [...come].filter(([id]) => asked.current.has(id))
          come.clear()
          setPainted((shown) => inOrder(new Map([...shown, ...together])))
        })
      come.set(data.key, { ...place, bitmap: data.bitmap })
    }
  }, [standing, render])
  return { painted, error }
}

/** How many edits two lists begin with alike. */
function alike(one: PaintEdit[], other: PaintEdit[]): number {
  const apart = other.findIndex((edit, k) => one[k]?.id !== edit.id)
  return apart < 0 ? other.length : apart
}
