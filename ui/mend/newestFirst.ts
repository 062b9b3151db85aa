import PQueue from 'p-queue'

/** Work that is asked for by a key, some at once, the newest first. What was asked for again is done only as it was asked for last. */
export class NewestFirst {
  private readonly queue: PQueue
  private readonly newest = new Map<string, number>()
  private come = 0

  constructor(atOnce: number) {
    this.queue = new PQueue({ concurrency: atOnce })
  }

  /** What the work answers; undefined where the same key was asked for again meanwhile. */
  async add<T>(key: string, work: () => Promise<T>): Promise<T | undefined> {
    const number = ++this.come
    this.newest.set(key, number)
    const isNewest = () => this.newest.get(key) === number
    const answer = await this.queue.add(async () => (isNewest() ? work() : undefined), { priority: number })
    return isNewest() ? answer : undefined
  }
}
