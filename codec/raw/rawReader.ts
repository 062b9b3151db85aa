import { availableParallelism } from 'node:os'
import { fileURLToPath } from 'node:url'
import path from 'node:path'
import { Piscina } from 'piscina'
import type { Development, NeutralPlace } from '@/core/develop'
import { refusal } from '@/core/words'
import type { NeutralRefused, RawFacts, RawTask } from './thread'

/** Each keeps one core busy, and holds one frame whole, five times over. */
const THREADS = Math.min(4, availableParallelism())
/** A thread that has nothing to do goes, and its memory with it. */
const IDLE_ms = 5000

/** Reads raw files in threads, one core a file. */
export class RawReader {
  private threads: Piscina | undefined

  /** @param threadFile what the build made of `codec/raw/thread.ts`: `raw.mjs`, beside the command. */
  constructor(private readonly threadFile: string | URL) {}

  /**
   * Reads a raw file through: how large it is, how it was taken, how it would be developed. `preview` asks for the camera's own
   * small picture as a JPEG file there, where it has one; with a `neutral` place it is developed so that this place becomes grey.
   * @throws Refusal naming the file where it is none, or is damaged; or where the place has no colour to tell.
   */
  async look(file: string, name = path.basename(file), { preview, neutral }: { preview?: string; neutral?: NeutralPlace } = {}): Promise<RawFacts> {
    const facts = await this.ask<RawFacts | NeutralRefused | null>({ ask: 'look', file, preview, neutral })
    if (!facts) throw refusal('raw.unreadable', { name })
    if ('refused' in facts) throw refusal(facts.refused)
    return facts
  }

  /**
   * Develops a raw file into a TIFF file of 16 bits in the wide space.
   * @throws Refusal naming the file where it is damaged.
   */
  async develop(file: string, out: string, development: Development, name = path.basename(file)): Promise<void> {
    const done = await this.ask<boolean>({ ask: 'develop', file, out, development })
    if (!done) throw refusal('raw.unreadable', { name })
  }

  async close(): Promise<void> {
    await this.threads?.destroy()
    this.threads = undefined
  }

  private ask<T>(task: RawTask): Promise<T> {
    const { threadFile } = this
    const filename = typeof threadFile === 'string' ? threadFile : fileURLToPath(threadFile)
    this.threads ??= new Piscina({ filename, minThreads: 0, maxThreads: THREADS, idleTimeout: IDLE_ms })
    return this.threads.run(task) as Promise<T>
  }
}
