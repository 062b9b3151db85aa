import { availableParallelism } from 'node:os'
import { parentPort, Worker, workerData } from 'node:worker_threads'
import { SceneDarkroom, type PictureOrder } from '@/core/devices'
import { createPicture, type Picture } from '@/core/raster'

/** What a thread is started with. */
export interface SceneName {
  scene: string
  seed: number
}

/** Answers orders for pictures with their planes, in a thread of its own. */
export function serveDarkroom(): void {
  const { scene, seed } = workerData as SceneName
  const darkroom = new SceneDarkroom(scene, seed)
  parentPort!.on('message', (order: PictureOrder) => {
    const { width, height, planes } = darkroom.take(order)
    const data = planes.map((plane) => plane.data)
    parentPort!.postMessage(
      { width, height, data },
      data.map(({ buffer }) => buffer as ArrayBuffer),
    )
  })
}

/** Pictures wider than this are cut into so many bands for each thread. */
const LARGE_px = 1000
const BANDS = 2

/** Takes pictures in as many threads as there are cores, each a band of the picture. */
export class DarkroomThreads {
  private readonly threads: Worker[]

  constructor(name: SceneName) {
    this.threads = Array.from(
      { length: Math.min(4, availableParallelism()) },
      () => new Worker(new URL(import.meta.url), { workerData: { work: 'darkroom', scene: name.scene, seed: name.seed } }),
    )
  }

  async take(order: PictureOrder): Promise<Picture> {
    const { width_px, height_px } = order.setup
    const whole = order.taking.window ?? { x: 0, y: 0, width: width_px, height: height_px }
    const count = this.threads.length * (whole.width > LARGE_px ? BANDS : 1)
    const edges = Array.from({ length: count + 1 }, (_, k) => Math.round((whole.height * k) / count))
    const bands: { data: Float32Array[] }[] = []
    await Promise.all(
      this.threads.map(async (thread, number) => {
        for (let k = 0; k < count; k++) {
          if (workerOf(k, this.threads.length) !== number) continue
          const window = { ...whole, y: whole.y + edges[k], height: edges[k + 1] - edges[k] }
          bands[k] = await bandOf(thread, { ...order, taking: { ...order.taking, window } })
        }
      }),
    )
    const picture = createPicture(whole.width, whole.height)
    bands.forEach(({ data }, k) => data.forEach((plane, c) => picture.planes[c].data.set(plane, edges[k] * whole.width)))
    return picture
  }

  async close(): Promise<void> {
    await Promise.all(this.threads.map((thread) => thread.terminate()))
  }
}

/**
 * Which thread draws band `k`: there and back again, so that a scene that is fuller below than above is shared evenly. A
 * band always goes to the same thread, which keeps what it sampled for it.
 */
function workerOf(k: number, count: number): number {
  const place = k % (2 * count)
  return place < count ? place : 2 * count - 1 - place
}

function bandOf(thread: Worker, order: PictureOrder): Promise<{ data: Float32Array[] }> {
  return new Promise((resolve, reject) => {
    const settle = (act: () => void) => {
      thread.off('message', onMessage)
      thread.off('error', onError)
      act()
    }
    const onMessage = (band: { data: Float32Array[] }) => settle(() => resolve(band))
    const onError = (error: Error) => settle(() => reject(error))
    thread.on('message', onMessage)
    thread.on('error', onError)
    thread.postMessage(order)
  })
}
