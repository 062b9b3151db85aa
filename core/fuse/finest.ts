import type { Slab, Workspace } from '../raster/kernels'
import { TIMES } from './noise'
import type { Pyramids, Triple } from './pyramids'

/** The finest band is raised by this part of itself where it is clear of noise: about what one interpolation takes that a second pass does not give back. */
const RAISED = 0.03
const SMOOTHINGS = 2

/**
 * Raises the finest band of summed pyramids, in place: by three hundredths where its energy is well above noise, by half of that where it is noise. `noise` is
 * what counts as noise (see noiseOf); two planes of the finest size are computed in.
 */
export function raiseFinest(space: Workspace, pyramids: Pyramids, sums: Triple, total: Slab, noise: number, spare: [Slab, Slab]): void {
  const [red, green, blue] = sums.map((slab) => space.view(slab))
  const weights = space.view(total)
  const energies = space.view(spare[0])
  for (let i = 0; i < energies.length; i++) {
    const weight = weights[i]
    energies[i] = weight > 0 ? (red[i] * red[i] + green[i] * green[i] + blue[i] * blue[i]) / (weight * weight) : 0
  }
  let [now, next] = spare
  for (let k = 0; k < SMOOTHINGS; k++, [now, next] = [next, now]) pyramids.smooth(now, next)
  const around = space.view(now)
  const own = noise / TIMES
  for (let i = 0; i < around.length; i++) {
    const factor = 1 + (RAISED * around[i]) / (around[i] + own)
    red[i] *= factor
    green[i] *= factor
    blue[i] *= factor
  }
}
