import { readSamples } from '@/codec'
import { DUST_WIDTH_px, DustFinder, withoutDust, type FoundDust } from '@/core/dust'
import { STYLES, type Fused } from '@/core/fuse'
import { SmallLuma, type Kernels } from '@/core/raster/kernels'
import type { FuseSettings } from '@/schemas'
import type { UsedFrame } from '../usedFrames'

/** Fuses frames of a series whose registration is known, one in memory at a time: all of them or some. */
export class KnownSeries {
  private dust?: FoundDust

  constructor(
    private readonly frames: UsedFrame[],
    private readonly size: { width: number; height: number },
    private readonly settings: FuseSettings,
    private readonly kernels: Kernels,
  ) {}

  /** Looks for dust as fusing did: its trails are no detail. */
  async findDust(): Promise<void> {
    const finder = new DustFinder(this.kernels)
    const small = new SmallLuma(this.kernels)
    for (const { file } of this.frames) {
      const { samples, width, height } = await readSamples(file.file, DUST_WIDTH_px, file.name)
      finder.add(small.of(samples, width, height, DUST_WIDTH_px))
    }
    this.dust = finder.finish(
      this.frames.map(({ place }) => place.motion),
      this.size.width,
    )
  }

  /** What frames of these places in focus order come to; to be used before anything else is fused. */
  async fuse(places: number[], onFrame: (name: string) => void): Promise<Fused> {
    const { width, height } = this.size
    const accumulator = STYLES[this.settings.style].create({ width, height, kernels: this.kernels, tuning: this.settings })
    const order = places.map((at, index) => ({ index, ...this.frames[at] }))
    // The depth that is met first is the one that is kept.
    if (this.settings.prefer === 'far') order.reverse()
    for (const { index, file, place } of order) {
      onFrame(file.name)
      const { samples } = await readSamples(file.file, undefined, file.name)
      if (this.dust) withoutDust(samples, width, height, this.dust)
      accumulator.add({ index, samples, ...place })
    }
    return accumulator.finish()
  }
}
