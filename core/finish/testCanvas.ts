import { TwinKernels } from '../raster/kernels'
import { finish, spaceOf, type Canvas, type Step, type Tools } from '.'

export const SRGB = spaceOf()

/** Doubles or halves by the nearest pixel; words are a block. */
export const TOOLS: Tools = {
  kernels: new TwinKernels(),
  resize: async (samples, from, to, channels) => {
    const out = new Uint16Array(to.width * to.height * channels)
    for (let y = 0, o = 0; y < to.height; y++)
      for (let x = 0; x < to.width; x++)
        for (let c = 0; c < channels; c++, o++)
          out[o] = samples[(Math.floor((y * from.height) / to.height) * from.width + Math.floor((x * from.width) / to.width)) * channels + c]
    return out
  },
  words: async (_, height) => ({ width: 2 * height, height, data: new Uint8Array(2 * height * height).fill(255) }),
}

export function canvas(width: number, height: number, sample: (x: number, y: number, c: number) => number, change: Partial<Canvas> = {}): Canvas {
  const samples = new Uint16Array(3 * width * height)
  for (let y = 0, i = 0; y < height; y++) for (let x = 0; x < width; x++) for (let c = 0; c < 3; c++, i++) samples[i] = sample(x, y, c)
  return { samples, width, height, space: SRGB, scale: 1, ...change }
}

/** Light of a sample by the formula of sRGB (IEC 61966-2-1). */
export const light = (sample: number) => {
  const v = sample / 65535
  return v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4
}
export const done = (from: Canvas, ...steps: Step[]) => finish(from, steps, TOOLS)
export const pixel = ({ samples, width }: Canvas, x: number, y: number) => [...samples.subarray(3 * (y * width + x), 3 * (y * width + x) + 3)]
export const luminance = (rgb: number[]) => 0.2225 * light(rgb[0]) + 0.7169 * light(rgb[1]) + 0.0606 * light(rgb[2])
