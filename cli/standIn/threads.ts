import { availableParallelism } from 'node:os'
import type { Worker } from 'node:worker_threads'
import type { PictureOrder, Prospect } from '@/core/devices'
import { createPicture, type Picture, type Rectangle } from '@/core/raster'
import { startThread } from '../startThread'
import type { Order, Said, SceneName } from './serveDarkroom'

/** Takes pictures in as many threads as there are cores, each a band of the picture. */
export class DarkroomThreads {
  private readonly threads: Worker[]
  private preparing = 0

  constructor(name: SceneName) {
    this.threads = Array.from({ length: Math.min(4, availableParallelism()) }, () =>
      startThread({ work: 'darkroom', scene: name.scene, seed: name.seed }),
    )
    for (const thread of this.threads) thread.on('message', (said: Said) => 'ready' in said && this.preparing--)
  }

  /** Makes ready for such pictures while there is nothing to take. */
  prepare(prospect: Prospect): void {
    for (const [k, window] of this.bandsOf(prospect).entries()) {
      this.preparing++
      this.threads[k].postMessage({ prepare: { ...prospect, window } } satisfies Order)
    }
  }

  /** Whether a frame comes at once: the scene is ready for it. */
  get ready(): boolean {
    return this.preparing === 0
  }

  async take(order: PictureOrder): Promise<Picture> {
    const { setup, reference_mm, taking } = order
    const bands = this.bandsOf({ setup, reference_mm, window: taking.window })
    const taken = await Promise.all(bands.map((window, k) => bandOf(this.threads[k], { ...order, taking: { ...taking, window } })))
    const [first] = bands
    const picture = createPicture(
      first.width,
      bands.reduce((sum, { height }) => sum + height, 0),
    )
    taken.forEach(({ data }, k) => data.forEach((plane, c) => picture.planes[c].data.set(plane, (bands[k].y - first.y) * first.width)))
    return picture
  }

  /** The bands of a picture from above, one for each thread, which keeps what it sampled for its own. */
  private bandsOf({ setup, window }: Prospect): Rectangle[] {
    const whole = window ?? { x: 0, y: 0, width: setup.width_px, height: setup.height_px }
    const edge = (k: number) => Math.round((whole.height * k) / this.threads.length)
    return this.threads.map((_, k) => ({ ...whole, y: whole.y + edge(k), height: edge(k + 1) - edge(k) }))
  }

  async close(): Promise<void> {
    await Promise.all(this.threads.map((thread) => thread.terminate()))
  }
}

type Taken = Exclude<Said, { ready: true }>

function bandOf(thread: Worker, order: PictureOrder): Promise<Taken> {
  return new Promise((resolve, reject) => {
    const settle = (act: () => void) => {
      thread.off('message', onMessage)
      thread.off('error', onError)
      act()
    }
    const onMessage = (said: Said) => 'ready' in said || settle(() => resolve(said))
    const onError = (error: Error) => settle(() => reject(error))
    thread.on('message', onMessage)
    thread.on('error', onError)
    thread.postMessage({ take: order } satisfies Order)
  })
}
