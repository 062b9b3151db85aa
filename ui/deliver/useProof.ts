import { startTransition, useEffect, useLayoutEffect, useRef, useState } from 'react'
import type { Step } from '@/core/finish'
import { Sheet } from './sheet'
import { usePressed } from './pressed'
import type { ProofLoad, ProofOrder, ProofReply } from './proofWorker'

/** What the proof shows now. */
export interface Shown {
  /** In px of the proof. */
  width: number
  height: number
  /** How much light there is of each kind before the step that is open. */
  light?: number[]
}

/** Something is dragged while a button or key is down; changes that follow each other so soon are taken for that too. */
const DRAGGED_ms = 600
/** It is at rest when no change comes for so long. */
const REST_ms = 200
/** Half the size and a quarter are whole pixels as well: their shapes differ by less. */
const SAME_shape = 0.01

/** Carries a recipe out on a small picture in a worker, always the newest that was asked for: steps that come meanwhile replace each other. */
export function useProof(load: ProofLoad['load'], steps: Step[], lightBefore: number | undefined, clipped: boolean, fine: boolean) {
  const [shown, setShown] = useState<Shown>()
  const [facts, setFacts] = useState<{ width: number; height: number; depth: boolean }>()
  const [error, setError] = useState('')
  const worker = useRef<Worker>(undefined)
  const busy = useRef(false)
  const waiting = useRef<ProofOrder>(undefined)
  const count = useRef(0)
  /** Width of what is shown for its height. */
  const shape = useRef(0)
  const changed = useRef(-Infinity)
  const pressed = usePressed()
  const [sheet] = useState(() => new Sheet())

  useEffect(() => {
    const made = new Worker(new URL('./proofWorker.ts', import.meta.url))
    worker.current = made
    made.onmessage = ({ data }: MessageEvent<ProofReply>) => {
      if ('loaded' in data) return setFacts(data.loaded)
      // The worker goes on while this is drawn.
      const next = waiting.current
      waiting.current = undefined
      busy.current = next !== undefined
      if (next) made.postMessage(next)
      if ('error' in data) setError(data.error)
      else {
        setError('')
        // What is dragged is shown at once; the screen around it follows where it depends on it, and at rest.
        const { width, height } = data
        sheet.lay(new ImageData(data.pixels, width, height))
        const reshaped = Math.abs(width / height / shape.current - 1) > SAME_shape
        shape.current = width / height
        if (!data.quick || data.light || reshaped) startTransition(() => setShown({ width, height, light: data.light }))
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
    const quick = pressed.current || now - changed.current < DRAGGED_ms
    changed.current = now
    send(quick)
    // Once nothing more comes it is shown as fine as it is.
    const timer = quick ? setTimeout(() => send(false), REST_ms) : undefined
    return () => clearTimeout(timer)
  }, [facts, steps, lightBefore, clipped, fine, pressed])
  return { shown, sheet, facts, error }
}
