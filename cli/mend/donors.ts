import { readSamples } from '@/codec'
import type { Rectangle } from '@/core/raster'
import { warpPart, type FrameSamples, type Kernels } from '@/core/raster/kernels'
import { refusal } from '@/core/words'
import { placeOf, type FrameFile, type FramePlace, type Registration } from '@/schemas'

/** A frame that is painted from: decoded once, and let go of before the next one. */
export interface Donor {
  samples: FrameSamples
  width: number
  height: number
  place: FramePlace
}

const STRIP_px = 512

/** The frames of a render as donors, by name. */
export class Donors {
  constructor(
    private readonly frames: FrameFile[],
    private readonly registration: Registration,
    private readonly kernels: Kernels,
  ) {}

  /** @throws Refusal where a frame is not part of the render, was left out of it, or its file is missing. */
  check(name: string): void {
    this.place(name)
    this.file(name)
  }

  /** Whether a frame is part of the render, and its file there. */
  serves(name: string): boolean {
    return placeOf(this.registration, name) !== undefined && this.frames.some((frame) => frame.name === name)
  }

  async open(name: string): Promise<Donor> {
    const place = this.place(name)
    return { place, ...(await readSamples(this.file(name).file, undefined, name)) }
  }

  /** A rectangle of the picture as this donor shows it: registered, and as bright as the reference. */
  part({ samples, width, height, place }: Donor, part: Rectangle, into?: Uint16Array): Uint16Array {
    const { crop } = this.registration
    const inFrame = { ...part, x: part.x + crop.x, y: part.y + crop.y }
    return warpPart(this.kernels, samples, { width, height }, place, inFrame, undefined, into)
  }

  /** The whole picture as this donor shows it, in strips from the top: so it is not there three times. */
  *strips(donor: Donor): Generator<{ part: Rectangle; samples: Uint16Array }> {
    const { width, height } = this.registration.crop
    for (let y = 0; y < height; y += STRIP_px) {
      const part = { x: 0, y, width, height: Math.min(STRIP_px, height - y) }
      yield { part, samples: this.part(donor, part) }
    }
  }

  /** The whole picture as a frame shows it, interleaved RGB of 16 bits. */
  async whole(name: string): Promise<Uint16Array> {
    const { width, height } = this.registration.crop
    const donor = await this.open(name)
    const whole = new Uint16Array(3 * width * height)
    for (const { part, samples } of this.strips(donor)) whole.set(samples, 3 * part.y * width)
    return whole
  }

  /** Frames that are part of the render and still there, in focus order. */
  names(): string[] {
    return this.registration.frames.map(({ file }) => file).filter((name) => this.serves(name))
  }

  private place(name: string): FramePlace {
    const place = placeOf(this.registration, name)
    if (place) return place
    const known = this.registration.frames.some(({ file }) => file === name)
    throw refusal(known ? 'mend.frameLeftOut' : 'mend.frameUnknown', { frame: name })
  }

  private file(name: string): FrameFile {
    const frame = this.frames.find((other) => other.name === name)
    if (!frame) throw refusal('mend.frameGone', { frame: name })
    return frame
  }
}
