import { availableParallelism } from 'node:os'
import { parentPort, Worker, workerData } from 'node:worker_threads'
import { SceneDarkroom, type PictureOrder, type Prospect } from '@/core/devices'
import { createPicture, type Picture, type Rectangle } from '@/core/raster'

/** What a thread is started with. */
export interface SceneName {
  scene: string
  seed: number
}

/** What a thread is asked: to take a picture, or to make ready for one whenever it has nothing to take. */
type Order = { take: PictureOrder } | { prepare: Prospect }
/** What it says: the picture's planes, or that it is ready for what it was asked. */
type Said = { width: number; height: number; data: Float32Array[] } | { ready: true }

/** Answers orders for pictures with their planes, in a thread of its own. */
export function serveDarkroom(): void {
  const { scene, seed } = workerData as SceneName
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

/** Takes pictures in as many threads as there are cores, each a band of the picture. */
export class DarkroomThreads {
  private readonly threads: Worker[]
  private preparing = 0

  constructor(name: SceneName) {
    this.threads = Array.from(
      { length: Math.min(4, availableParallelism()) },
      () => new Worker(new URL(import.meta.url), { workerData: { work: 'darkroom', scene: name.scene, seed: name.seed } }),
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
