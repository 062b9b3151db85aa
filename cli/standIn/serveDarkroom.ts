import { parentPort } from 'node:worker_threads'
import { SceneDarkroom, type PictureOrder, type Prospect } from '@/core/devices'

/** What a thread is started with. */
export interface SceneName {
  scene: string
  seed: number
}

/** What a thread is asked: to take a picture, or to make ready for one whenever it has nothing to take. */
export type Order = { take: PictureOrder } | { prepare: Prospect }
/** What it says: the picture's planes, or that it is ready for what it was asked. */
export type Said = { width: number; height: number; data: Float32Array[] } | { ready: true }

/** Answers orders for pictures with their planes, in a thread of its own. */
export function serveDarkroom({ scene, seed }: SceneName): void {
  const darkroom = new SceneDarkroom(scene, seed)
  const say = (said: Said, moved: ArrayBuffer[] = []) => parentPort!.postMessage(said, moved)
  // Between two bits of preparing, orders that have come meanwhile are taken.
  const prepare = (prospect: Prospect) => {
    if (darkroom.prepare(prospect)) setImmediate(prepare, prospect)
    else say({ ready: true })
  }
  parentPort!.on('message', (order: Order) => {
    if ('prepare' in order) return prepare(order.prepare)
    const { width, height, planes } = darkroom.take(order.take)
    const data = planes.map((plane) => plane.data)
    say(
      { width, height, data },
      data.map(({ buffer }) => buffer as ArrayBuffer),
    )
  })
}
