/** One channel of a picture, row by row. Sample values run from 0 to 1 unless a function says otherwise. */
export interface Plane {
  width: number
  height: number
  data: Float32Array
}

/** Red, green and blue planes of one size, sRGB-encoded, 0 … 1. */
export interface Picture {
  width: number
  height: number
  planes: [Plane, Plane, Plane]
}

export function createPlane(width: number, height: number): Plane {
  return { width, height, data: new Float32Array(width * height) }
}

export function createPicture(width: number, height: number): Picture {
  return { width, height, planes: [createPlane(width, height), createPlane(width, height), createPlane(width, height)] }
}

/** Luma of a picture, Rec. 709 weights on the encoded values. */
export function luma({ width, height, planes: [red, green, blue] }: Picture): Plane {
  const out = createPlane(width, height)
  for (let i = 0; i < out.data.length; i++) out.data[i] = 0.2126 * red.data[i] + 0.7152 * green.data[i] + 0.0722 * blue.data[i]
  return out
}

/** Interleaved 8- or 16-bit RGB samples to a picture of 0 … 1. */
export function fromInterleaved(samples: Uint8Array | Uint16Array, width: number, height: number): Picture {
  const picture = createPicture(width, height)
  const scale = 1 / (samples instanceof Uint16Array ? 65535 : 255)
  const [red, green, blue] = picture.planes.map((plane) => plane.data)
  for (let i = 0, s = 0; i < red.length; i++, s += 3) {
    red[i] = samples[s] * scale
    green[i] = samples[s + 1] * scale
    blue[i] = samples[s + 2] * scale
  }
  return picture
}

export interface Rectangle {
  x: number
  y: number
  width: number
  height: number
}

/** What two rectangles have in common; of no width or height where that is nothing. */
export function meeting(a: Rectangle, b: Rectangle): Rectangle {
  const [x, y] = [Math.max(a.x, b.x), Math.max(a.y, b.y)]
  const width = Math.max(0, Math.min(a.x + a.width, b.x + b.width) - x)
  return { x, y, width, height: Math.max(0, Math.min(a.y + a.height, b.y + b.height) - y) }
}

/** Whether two rectangles have a place in common. */
export const overlap = (a: Rectangle, b: Rectangle): boolean =>
  a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height

/** A picture to interleaved 16-bit RGB samples, clipped to the range. */
export function toInterleaved16({ width, height, planes }: Picture): Uint16Array {
  const samples = new Uint16Array(width * height * 3)
  planes.forEach(({ data }, channel) => {
    for (let i = 0, s = channel; i < data.length; i++, s += 3) samples[s] = Math.min(65535, Math.max(0, data[i] * 65535 + 0.5))
  })
  return samples
}

/** Interleaved RGB samples of 8 or 16 bits. */
export interface Interleaved {
  width: number
  height: number
  samples: Uint8Array | Uint16Array
}
