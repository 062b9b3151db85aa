/**
 * The printed sheet that a camera's focus is measured on, laid slanting before it. Lengths are in pitches, the distance of its dots: u across,
 * s along the slant. Two ladders of dots tell where one looks, bars between them how sharp it is there.
 *
 * Bars run along the slant, so that every line across shows the same signal, however deep it lies: what differs from line to line is blur alone.
 */

/** Rows of dots: as many as the code has places. */
export const ROWS = 63
/** The ladders stand so far from the middle. */
export const LADDER_u = 13
/** Bars fill so much to each side of the middle. */
export const BARS_u = 10
/** The sheet ends here. */
export const EDGE_u = 15
export const EDGE_s = (ROWS + 3) / 2
/** Radii of the two dots that the code is written with: one has half the ink of the other. */
export const SMALL_dot = 0.18
export const LARGE_dot = 0.27
/** The line along the sheet that a print is checked by is so many pitches long. */
export const BAR_pitches = 20
/** Below this a good printer no longer parts the finest bars; above, the two rows of dots are wider apart than the paper. */
export const LEAST_pitch_mm = 0.4
export const MOST_pitch_mm = 4.5

/** Widths of bars and of the gaps between them. */
const BAR_WIDTHS = [0.1, 0.1, 0.14, 0.18, 0.25, 0.35, 0.5, 0.75]

/** Which dots are large: any six in a row come once. Source: Golomb, *Shift Register Sequences* (x⁶ + x + 1). */
export const CODE: readonly boolean[] = shiftRegister()

/** Where the dots of a row stand along the slant. */
export const rowAt = (row: number): number => row - (ROWS - 1) / 2

/** Where bars begin and end, from the left, in pitches. */
export const BARS: readonly (readonly [from: number, to: number])[] = bars()

/** How much ink lies between the left edge of the bars and u, in pitches: its differences are the ink of any stretch without aliasing. */
export function inkUntil(u: number): number {
  let ink = 0
  for (const [from, to] of BARS) {
    if (from >= u) break
    ink += Math.min(u, to) - from
  }
  return ink
}

function shiftRegister(): boolean[] {
  let state = 1
  return Array.from({ length: ROWS }, () => {
    const bit = state & 1
    const next = (state ^ (state >> 1)) & 1
    state = (state >> 1) | (next << 5)
    return bit === 1
  })
}

/** The same on every sheet that was ever printed: a small generator of its own (Park & Miller). */
function bars(): [number, number][] {
  let state = 20_261
  const width = () => {
    state = (state * 48_271) % 2_147_483_647
    return BAR_WIDTHS[state % BAR_WIDTHS.length]
  }
  const found: [number, number][] = []
  for (let u = -BARS_u + width(); u < BARS_u - 1;) {
    const to = u + width()
    found.push([u, to])
    u = to + width()
  }
  return found
}
