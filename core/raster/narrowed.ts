import { reduce } from './filters'
import type { Plane } from './plane'

/** A plane halved until it is at most so wide. */
export function narrowed(plane: Plane, widest_px: number): Plane {
  let small = plane
  while (small.width > widest_px) small = reduce(small)
  return small
}
