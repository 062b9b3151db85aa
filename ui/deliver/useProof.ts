import { startTransition, useEffect, useLayoutEffect, useRef, useState } from 'react'
import type { Step } from '@/core/finish'
import type { ProofLoad, ProofOrder, ProofReply } from './proofWorker'

/** What the proof shows now. */
export interface Shown {
  bitmap: ImageBitmap
  /** How much light there is of each kind before the step that is open. */
  light?: number[]
}

/** Changes that follow each other so soon are of something that is dragged; it is at rest when none comes for so long. */
const DRAGGED_ms = 600
const REST_ms = 200

/** Carries a recipe out on a small picture in a worker, always the newest that was asked for: steps that come meanwhile replace each other. */
export function useProof(load: ProofLoad['load'], steps: Step[], lightBefore: number | undefined, clipped: boolean, fine: boolean) {
  const [shown, setShown] = useState<Shown>()
  const [facts, setFacts] = useState<{ width: number; height: number; depth: boolean }>()
  const [error, setError] = useState('')
  const worker = useRef<Worker>(undefined)
  const busy = useRef(false)
  const waiting = useRef<ProofOrder>(undefined)
  const count = useRef(0)
  const changed = useRef(-Infinity)
  /** Shows a bitmap on the canvas that there is. */
  const draw = useRef<(bitmap: ImageBitmap) => void>(undefined)

  useEffect(() => {
    const made = new Worker(new URL('./proofWorker.ts', import.meta.url))
    worker.current = made
    made.onmessage = ({ data }: MessageEvent<ProofReply>) => {
      if ('loaded' in data) return setFacts(data.loaded)
      busy.current = false
      if ('error' in data) setError(data.error)
      else {
        setError('')
        // What is dragged is shown at once; what else depends on it may come later.
        draw.current?.(data.bitmap)
        startTransition(() => setShown({ bitmap: data.bitmap, light: data.light }))
      }
      const next = waiting.current
      waiting.current = undefined
      if (next) {
        busy.current = true
        made.postMessage(next)
      }
    }
    made.postMessage({ load } satisfies ProofLoad)
    return () => made.terminate()
    // The same picture for as long as the screen is open.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [load.render, load.width])

  // At once, not after the screen is painted: the worker computes meanwhile.
  useLayoutEffect(() => {
    if (!facts) return
    const send = (quick: boolean) => {
      const order = { order: ++count.current, steps, lightBefore, clipped, quick, fine }
      if (busy.current) waiting.current = order
      else {
        busy.current = true
        worker.current!.postMessage(order)
      }
    }
    const now = performance.now()
    const quick = now - changed.current < DRAGGED_ms
    changed.current = now
    send(quick)
    // Once nothing more comes it is shown as fine as it is.
    const timer = quick ? setTimeout(() => send(false), REST_ms) : undefined
    return () => clearTimeout(timer)
  }, [facts, steps, lightBefore, clipped, fine])
  return { shown, draw, facts, error }
}
