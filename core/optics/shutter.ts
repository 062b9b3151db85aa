const FULL = '1/8000 1/4000 1/2000 1/1000 1/500 1/250 1/125 1/60 1/30 1/15 1/8 1/4 1/2 1 2 4 8 15 30'
const HALF =
  '1/8000 1/6000 1/4000 1/3000 1/2000 1/1500 1/1000 1/750 1/500 1/350 1/250 1/180 1/125 1/90 1/60 1/45 1/30 1/20 1/15 1/10 1/8 1/6 1/4 0.3 1/2 0.7 1 1.5 2 3 4 6 8 10 15 20 30'
const THIRD =
  '1/8000 1/6400 1/5000 1/4000 1/3200 1/2500 1/2000 1/1600 1/1250 1/1000 1/800 1/640 1/500 1/400 1/320 1/250 1/200 1/160 1/125 1/100 1/80 1/60 1/50 1/40 1/30 1/25 1/20 1/15 1/13 1/10 1/8 1/6 1/5 1/4 0.3 0.4 1/2 0.6 0.8 1 1.3 1.6 2 2.5 3.2 4 5 6 8 10 13 15 20 25 30'

const read = (list: string) =>
  list.split(' ').map((text) => {
    const [over, under = '1'] = text.split('/')
    return Number(over) / Number(under)
  })

/** Marked shutter speeds in seconds, by how many there are to a stop (ISO 516 rounds them as dials show them). */
const MARKED: Record<number, number[]> = { 1: read(FULL), 2: read(HALF), 3: read(THIRD) }

/** The longest time on a dial; beyond it the shutter is held open by the clock. */
export const LONGEST_MARKED_s = 30

/**
 * The shutter speed nearest to an exposure time, in stops, that can be set where there are `perStop` of them to a stop (1, 2 or 3).
 * Beyond half a minute the shutter is held open by the clock: whole seconds. Beyond the shortest one it stays as it is.
 */
export function settableShutter_s(exposure_s: number, perStop = 3): number {
  const marked = MARKED[perStop] ?? MARKED[3]
  if (exposure_s > LONGEST_MARKED_s) return Math.round(exposure_s)
  if (exposure_s < marked[0]) return exposure_s
  const away = (marked_s: number) => Math.abs(Math.log2(marked_s / exposure_s))
  return marked.reduce((best, next) => (away(next) < away(best) ? next : best))
}
