import type { Slab, Workspace } from '../raster/kernels'

/** Sharpness fell to this part of its best since: what rises after that is a second depth. At a half, ground beside a hair counts as one as well, and is lost. */
const VALLEY = 0.2
/** What is surely detail, in multiples of what counts as noise. */
const SURE = 1.5
/** A second depth counts as this part of the first at the most: to the fourth power, nearly nothing. */
const HELD = 0.35

/**
 * Holds back second depths: where a place was sharp, went out of focus, and becomes sharp again in a later frame, the first
 * depth wins. Two planes a level: the best energy so far, and the least since.
 */
export class SecondDepths {
  private readonly levels: { best: Slab; valley: Slab }[]
  private begun = 0

  constructor(
    private readonly space: Workspace,
    sizes: [number, number][],
  ) {
    this.levels = sizes.map(([width, height]) => ({ best: space.plane(width, height), valley: space.plane(width, height) }))
  }

  /** Lowers the energies of a level where they are those of a second depth. Levels are to be given in order, frame by frame. */
  hold(level: number, energies: Slab, noise: number): void {
    const { best, valley } = this.levels[level]
    const [now, most, least] = [energies, best, valley].map((slab) => this.space.view(slab))
    const first = (this.begun & (1 << level)) === 0
    this.begun |= 1 << level
    const sure = SURE * noise
    for (let i = 0; i < now.length; i++) {
      const energy = now[i]
      if (first) most[i] = least[i] = energy
      else if (most[i] > sure && least[i] < VALLEY * most[i]) now[i] = Math.min(energy, HELD * most[i])
      else if (energy > most[i]) most[i] = least[i] = energy
      else if (energy < least[i]) least[i] = energy
    }
  }
}
