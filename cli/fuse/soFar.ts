import { mkdir } from 'node:fs/promises'
import path from 'node:path'
import { writeGrey, writePicture } from '@/codec'
import type { Accumulator } from '@/core/fuse'

/** No more often than eyes want a new picture. */
const EVERY_ms = 400

/** Writes what a series has come to so far to a folder, as `picture.jpg` and `depth.png` (0 the nearest frame, 255 the farthest). */
export class SoFarWriter {
  private written = 0
  private last = -Infinity

  constructor(
    private readonly folder: string | undefined,
    private readonly count: number,
    /** Profile that the frames' samples are in. */
    private readonly icc?: Buffer,
  ) {}

  /** Where it is time, writes both pictures, each whole; answers how many times it did so. */
  async look(accumulator: Accumulator): Promise<number | undefined> {
    if (!this.folder) return undefined
    if (performance.now() - this.last < EVERY_ms) return this.written
    await mkdir(this.folder, { recursive: true })
    const { depth, ...picture } = accumulator.soFar()
    const crop = { x: 0, y: 0, width: picture.width, height: picture.height }
    await writePicture(path.join(this.folder, 'picture.jpg'), picture, { bits: 8, crop, icc: this.icc })
    const grey = depth.data.map((place) => (255 * place) / Math.max(1, this.count - 1))
    await writeGrey(path.join(this.folder, 'depth.png'), { ...depth, data: grey }, 8)
    this.last = performance.now()
    return ++this.written
  }
}
