import type { Development } from './development'

/** A capture of a set: its file, and where the sensor stood, px from the first. */
export interface Capture {
  file: string
  x_px: number
  y_px: number
}

/** What a raw frame is developed from, and how. */
export interface RawOriginal {
  file: string
  development: Development
  /** Its captures, where the sensor was shifted between several, `file` the first of them. */
  captures?: Capture[]
}
