import { strokeMask } from '../mend'
import type { Canvas } from './canvas'
import type { StepName, StepOf } from './recipe'
import { smoothstep, toneGains } from './tones'

/** Changes the light of one row of the picture, interleaved, in place. */
export type RowWork = (row: Float32Array, y: number) => void

/** The mean light of a place, after the steps before. */
export type Look = (x: number, y: number, radius_px: number) => [red: number, green: number, blue: number]

/** Steps that change each pixel by itself: rows go through all of them at once. */
export type PointwiseName = 'neutral' | 'light' | 'tones' | 'colour' | 'gradient' | 'depthGradient' | 'local'

export const POINTWISE: { [K in PointwiseName]: (step: StepOf<K>, canvas: Canvas, look: Look) => RowWork } = {
  neutral: ({ at: [x, y], radius_px }, { space }, look) => {
    const [red, green, blue] = look(x, y, radius_px)
    const [r, g, b] = space.luminance
    const grey = r * red + g * green + b * blue
    // Nothing can be said of the colour of what is black.
    const factor = (light: number) => (light > 1e-5 ? grey / light : 1)
    return scaled(factor(red), factor(green), factor(blue))
  },
  light: ({ stops }) => scaled(2 ** stops, 2 ** stops, 2 ** stops),
  tones: ({ points }, { space: { luminance } }) => {
    const gains = toneGains(points)
    const [r, g, b] = luminance
    return (row) => {
      for (let i = 0; i < row.length; i += 3) {
        const gain = gains(r * row[i] + g * row[i + 1] + b * row[i + 2])
        row[i] *= gain
        row[i + 1] *= gain
        row[i + 2] *= gain
      }
    }
  },
  colour: ({ strength }, { space: { luminance } }) => {
    const [r, g, b] = luminance
    return (row) => {
      for (let i = 0; i < row.length; i += 3) {
        const grey = r * row[i] + g * row[i + 1] + b * row[i + 2]
        for (let c = i; c < i + 3; c++) row[c] = grey + strength * (row[c] - grey)
      }
    }
  },
  gradient: ({ from: [ax, ay], to: [bx, by], stops }) => {
    const [ux, uy] = [bx - ax, by - ay]
    const gain = fading(stops)
    const perLength = 1 / (ux * ux + uy * uy)
    return (row, y) => {
      for (let i = 0, x = 0; i < row.length; i += 3, x++) times(row, i, gain(((x - ax) * ux + (y - ay) * uy) * perLength))
    }
  },
  depthGradient: ({ from, to, stops }, { depth }) => {
    const gain = fading(stops)
    const { data, width } = depth!
    return (row, y) => {
      for (let i = 0, x = y * width; i < row.length; i += 3, x++) times(row, i, gain((data[x] / 65535 - from) / (to - from)))
    }
  },
  local:
    ({ stops, gate, ...stroke }, { width, depth }) =>
    (row, y) => {
      if (stroke.path.every(([, py]) => Math.abs(py - y) > stroke.radius_px) && !spans(stroke.path, y)) return
      const { strength } = strokeMask({ ...stroke, opacity: 1 }, { x: 0, y, width, height: 1 })
      for (let x = 0, i = 0; x < width; x++, i += 3) {
        if (strength[x] === 0) continue
        if (gate && depth) {
          const at = depth.data[y * width + x] / 65535
          if (at < gate.near || at > gate.far) continue
        }
        times(row, i, 2 ** (stops * strength[x]))
      }
    },
}

export const isPointwise = (name: StepName): name is PointwiseName => name in POINTWISE

/** Whether a piece of a path goes from above a row to below it. */
const spans = (path: [number, number][], y: number) => path.some(([, py], k) => k > 0 && (py - y) * (path[k - 1][1] - y) <= 0)

function scaled(red: number, green: number, blue: number): RowWork {
  return (row) => {
    for (let i = 0; i < row.length; i += 3) {
      row[i] *= red
      row[i + 1] *= green
      row[i + 2] *= blue
    }
  }
}

/** The factor at a part of the way from where all of it is done to where nothing is. */
function fading(stops: number): (t: number) => number {
  const STEPS = 1024
  const table = Float32Array.from({ length: STEPS + 2 }, (_, k) => 2 ** (stops * (1 - smoothstep(Math.min(1, k / STEPS)))))
  return (t) => {
    if (t <= 0) return table[0]
    if (t >= 1) return 1
    const step = (t * STEPS) | 0
    return table[step] + (t * STEPS - step) * (table[step + 1] - table[step])
  }
}

function times(row: Float32Array, i: number, factor: number): void {
  row[i] *= factor
  row[i + 1] *= factor
  row[i + 2] *= factor
}
