import type { RunDetail } from '@/schemas'

/**
 * The number that every screen calls a frame by: its place in the run by the names of the files, so that `frame_046.jpg` of a whole run is
 * frame 46 everywhere, whatever is left out. By id and by name.
 */
export function frameNumbers({ frames }: Pick<RunDetail, 'frames'>): { byId: Map<number, number>; byName: Map<string, number> } {
  return {
    byId: new Map(frames.map(({ id }, k) => [id, k + 1])),
    byName: new Map(frames.map(({ name }, k) => [name, k + 1])),
  }
}
