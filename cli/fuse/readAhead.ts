import { beginSamples, type Samples } from '@/codec'
import { collectGarbage } from './team'

/** Frames this large are not left to the collector's own time. */
const LARGE_bytes = 12_000_000

/** Decodes frames one after the other, each while the one before it is worked on; no more than one of them lies decoded in memory. */
export class ReadAhead {
  private begun = 0
  private coming?: Promise<Samples>
  private samples?: Samples['samples']

  /** `files` in the order that they are wanted in. */
  constructor(private readonly files: { file: string; name: string }[]) {}

  /** Waits for the next frame. @throws Refusal where it is damaged. */
  async arrived(): Promise<void> {
    if (!this.coming) await this.begin()
    this.samples = (await this.coming!).samples
  }

  /** Hands over the frame that arrived; what `take` needs of it, it copies. */
  handOver(take: (samples: Samples['samples']) => void): void {
    take(this.samples!)
  }

  /** Gives back what was handed over, and begins to decode the next frame, which goes on however long this thread is busy. */
  async goOn(): Promise<void> {
    const { byteLength } = this.samples!
    this.samples = this.coming = undefined
    if (byteLength > LARGE_bytes) collectGarbage()
    if (this.begun < this.files.length) await this.begin()
  }

  private async begin(): Promise<void> {
    const { file, name } = this.files[this.begun++]
    this.coming = (await beginSamples(file, undefined, name)).coming
  }
}
