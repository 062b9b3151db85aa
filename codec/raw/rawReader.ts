import { availableParallelism } from 'node:os'
import { fileURLToPath } from 'node:url'
import path from 'node:path'
import { Piscina } from 'piscina'
import type { Capture, Development, NeutralPlace, Offset, RawOriginal } from '@/core/develop'
import { refusal } from '@/core/words'
import { writeWhole } from '../writePicture'
import { mergedFile } from './captures/set'
import type { Merged } from './captures'
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

  /**
   * How far the sensor stood, at each of these files, from where it was at the first.
   * @throws Refusal naming the first of them where one is damaged, or is of another size.
   */
  async offsets(files: string[]): Promise<Offset[]> {
    const found = await this.ask<Offset[] | null>({ ask: 'offsets', files })
    if (!found) throw refusal('raw.unreadable', { name: path.basename(files[0]) })
    return found
  }

  /**
   * Merges captures of one focus position, the sensor shifted between them, and develops them into a TIFF file of 16 bits in the wide
   * space. Where something moved only the first is developed, as large.
   * @throws Refusal naming the frame where a file of it is damaged.
   */
  async merge(captures: Capture[], out: string, development: Development, name: string): Promise<Merged> {
    const merged = await this.ask<Merged | null>({ ask: 'merge', captures, out, development })
    if (!merged) throw refusal('raw.unreadable', { name })
    return merged
  }

  /**
   * Develops a frame from what it was taken as: one file, or several captures; of those it is kept beside the picture what became of them.
   * @throws Refusal naming the frame where a file of it is damaged.
   */
  async developFrame({ file, development, captures }: RawOriginal, out: string, name: string): Promise<void> {
    if (!captures) return this.develop(file, out, development, name)
    const merged = await this.merge(captures, out, development, name)
    await writeWhole(mergedFile(out), JSON.stringify(merged))
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
