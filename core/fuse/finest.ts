import type { Slab, Workspace } from '../raster/kernels'
import { TIMES } from './noise'
import { MEAN_STEPS, type Pyramids, type Triple } from './pyramids'

/** The finest band is raised by this part of itself where it is clear of noise: about what one interpolation takes that a second pass does not give back. */
const RAISED = 0.03
const SMOOTHINGS = 2

/** What fits the 16 bits of a mean. */
export const inSteps = (value: number) => Math.min(MEAN_STEPS, Math.max(-MEAN_STEPS, Math.round(value)))

/**
 * Raises the means of the finest band, in place: by three hundredths where their energy is well above noise, by half of that where it is noise. `noise` is
 * what counts as noise (see noiseOf); two planes of the finest size are computed in.
 */
export function raiseFinest(space: Workspace, pyramids: Pyramids, means: Triple, noise: number, spare: [Slab, Slab]): void {
  const [red, green, blue] = means.map((slab) => space.steps(slab))
  const energies = space.view(spare[0])
  const own = (noise / TIMES) * MEAN_STEPS ** 2
  for (let i = 0; i < energies.length; i++) energies[i] = red[i] ** 2 + green[i] ** 2 + blue[i] ** 2
  let [now, next] = spare
  for (let k = 0; k < SMOOTHINGS; k++, [now, next] = [next, now]) pyramids.smooth(now, next)
  const around = space.view(now)
  for (let i = 0; i < around.length; i++) {
    const factor = 1 + (RAISED * around[i]) / (around[i] + own)
    for (const channel of [red, green, blue]) channel[i] = inSteps(channel[i] * factor)
  }
}
