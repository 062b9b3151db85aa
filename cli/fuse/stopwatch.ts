export type Stage = 'decode' | 'register' | 'fuse' | 'encode'

/** Adds up the time spent in each stage of a render. */
export class Stopwatch {
  private readonly started = performance.now()
  private readonly spent_ms: Record<Stage, number> = { decode: 0, register: 0, fuse: 0, encode: 0 }

  async time<T>(stage: Stage, work: () => Promise<T>): Promise<T> {
    const start = performance.now()
    try {
      return await work()
    } finally {
      this.spent_ms[stage] += performance.now() - start
    }
  }

  /** Each of what comes bit by bit; what is timed is waiting for it. */
  async *timeEach<T>(stage: Stage, all: AsyncIterable<T>): AsyncGenerator<T> {
    const iterator = all[Symbol.asyncIterator]()
    for (let next = await this.time(stage, () => iterator.next()); !next.done; next = await this.time(stage, () => iterator.next())) yield next.value
  }

  timeNow<T>(stage: Stage, work: () => T): T {
    const start = performance.now()
    try {
      return work()
    } finally {
      this.spent_ms[stage] += performance.now() - start
    }
  }

  /** Seconds by stage and in total, to the millisecond. */
  timings_s(): Record<Stage | 'total', number> {
    const { decode, register, fuse, encode } = this.spent_ms
    const seconds = (ms: number) => Math.round(ms) / 1000
    return {
      decode: seconds(decode),
      register: seconds(register),
      fuse: seconds(fuse),
      encode: seconds(encode),
      total: seconds(performance.now() - this.started),
    }
  }
}
