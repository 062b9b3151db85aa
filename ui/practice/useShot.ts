import { useEffect, useRef, useState } from 'react'
import type { SeriesRequest } from '@/core/simulate'
import type { Darkroom } from './darkroom'

/** The frame of a series that is asked for; until it is there, the one before. What was taken is kept. */
export function useShot(darkroom: Darkroom | undefined, request: SeriesRequest, index: number): { bitmap?: ImageBitmap; error: string } {
  const frames = useRef(new Map<number, ImageBitmap>())
  const wanted = useRef(index)
  const busy = useRef(false)
  const [bitmap, setBitmap] = useState<ImageBitmap>()
  const [error, setError] = useState('')
  useEffect(() => {
    wanted.current = index
    const known = frames.current.get(index)
    if (known) return setBitmap(known)
    if (!darkroom || busy.current) return
    const shoot = async () => {
      // While one is taken the wish may change: what lies between is not taken.
      while (!frames.current.has(wanted.current)) {
        const asked = wanted.current
        const taken = await darkroom.ask('shoot', { request, index: asked })
        frames.current.set(asked, taken)
        setBitmap(frames.current.get(wanted.current) ?? taken)
      }
    }
    busy.current = true
    shoot()
      .catch((cause: Error) => setError(cause.message))
      .finally(() => (busy.current = false))
  }, [darkroom, request, index])
  return { bitmap, error }
}
