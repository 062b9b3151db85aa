import { useQueryClient } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { marksOf_s, type FieldEvent } from '@/core/field'
import type { PlannedFrame, Timing } from '@/core/plan'
import { message } from '../messages'
import type { Devices } from './useDevices'

interface Run {
  shootId: number
  devices: Devices
  timing: Timing
  append: (event: FieldEvent) => unknown
  /** Distance of the subject's near edge, for plans by distances; else 0. */
  near_mm: number
  /** Entry of the log that began the run. */
  run: string
}

const pause = (seconds: number) => new Promise((resolve) => setTimeout(resolve, Math.max(0, seconds) * 1000))
const now_s = () => performance.now() / 1000

/**
 * Takes the remaining frames with the devices: move, come to rest, wait for the flash, expose, tick. `inFull` it takes as long as the plan
 * reckons, to see what an evening of it will be.
 */
export function useRunByItself({ shootId, devices, timing, append, near_mm, run }: Run) {
  const client = useQueryClient()
  const [running, setRunning] = useState(false)
  const stopped = useRef(false)
  const start = async (ahead: PlannedFrame[], inFull: boolean) => {
    const marks = marksOf_s(timing)
    stopped.current = false
    setRunning(true)
    try {
      for (const frame of ahead) {
        if (stopped.current) break
        const began = now_s()
        const { flash } = await devices.ask({ do: 'goTo', position_mm: frame.position_mm ?? frame.focusDistance_mm! - near_mm })
        // Simulated hands are steady and simulated time is short: a tenth of the waits is enough to see them.
        await pause(inFull ? began + marks.release - now_s() : Math.min(0.5, (timing.settle_s + timing.delay_s) / 10))
        if (flash && flash.recycling_s > 0) await pause(flash.recycling_s)
        await devices.ask({ do: 'press', run })
        if (inFull) await pause(began + marks.next - now_s())
        append({ kind: 'taken' })
        void client.invalidateQueries({ queryKey: ['shoot', shootId] })
      }
    } catch (error) {
      void message.error((error as Error).message)
    } finally {
      setRunning(false)
    }
  }
  return { running, start, stop: () => void (stopped.current = true) }
}
