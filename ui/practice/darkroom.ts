import type { ExerciseName, Mark, WrongPlace } from '@/core/practice'
import type { SeriesRequest } from '@/core/simulate'

/** What the darkroom is asked for, and what it answers. */
export interface DarkroomWork {
  /** The frame of a series, as it was shot. */
  shoot: { order: { request: SeriesRequest; index: number }; reply: ImageBitmap }
  /** How many frames a series really has. */
  count: { order: { request: SeriesRequest }; reply: number }
  /** A series fused, without one of its frames where that was forgotten. */
  fuse: { order: { request: SeriesRequest; without?: number }; reply: ImageBitmap }
  /** A series with faults fused and the same without them, and where the two differ. */
  compare: { order: { request: SeriesRequest; clean: SeriesRequest; without?: number }; reply: Comparison }
  /** Where the subject begins and ends. */
  extent: { order: { request: SeriesRequest }; reply: { near_mm: number; far_mm: number } }
  mark: { order: { exercise: ExerciseName; task: unknown; answer: unknown }; reply: Mark }
}

export interface Comparison {
  picture: ImageBitmap
  clean: ImageBitmap
  places: WrongPlace[]
}

export type DarkroomOrder = { [Does in keyof DarkroomWork]: { id: number; does: Does } & DarkroomWork[Does]['order'] }[keyof DarkroomWork]
export type DarkroomReply = { id: number } & ({ reply: unknown } | { error: string })

/** Shoots, fuses and marks in a worker, so that the hand on the screen is never held up. */
export class Darkroom {
  private readonly worker = new Worker(new URL('./darkroomWorker.ts', import.meta.url))
  private readonly waiting = new Map<number, { resolve: (reply: never) => void; reject: (cause: Error) => void }>()
  private last = 0

  constructor() {
    this.worker.onmessage = ({ data }: MessageEvent<DarkroomReply>) => {
      const asked = this.waiting.get(data.id)
      this.waiting.delete(data.id)
      if ('error' in data) asked?.reject(new Error(data.error))
      else asked?.resolve(data.reply as never)
    }
  }

  ask<Does extends keyof DarkroomWork>(does: Does, order: DarkroomWork[Does]['order']): Promise<DarkroomWork[Does]['reply']> {
    const id = ++this.last
    return new Promise((resolve, reject) => {
      this.waiting.set(id, { resolve, reject })
      this.worker.postMessage({ id, does, ...order })
    })
  }

  close(): void {
    this.worker.terminate()
  }
}
