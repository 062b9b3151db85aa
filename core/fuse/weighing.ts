/** How a style weighs the bands of a frame by their energies. */
export type Weighing = BandWeighing | SurfaceWeighing

/**
 * Every band decides by its own energy, the finer bands' handed down and some of the coarser ones' handed up. Crossing
 * hairs keep their detail, and where no frame has more than noise the weights even out and the noise averages away.
 */
export interface BandWeighing {
  by: 'band'
  /** Times that energies are smoothed, each by a Gaussian of σ = 1 px: wider neighbourhoods decide more evenly. */
  smoothings: number
  /** How decidedly the sharper frame wins: weights are energy to this power, a whole one. */
  decision: number
  /** What the coarser band's energy adds to a finer band's say: agreement over scales. */
  coarserShare: number
}

/** One weight a place, from the finest bands together, handed down to all bands: every place shows one depth. */
export interface SurfaceWeighing {
  by: 'surface'
  /** How many of the finest bands tell where the surface is sharp. */
  bands: number
  smoothings: number
  decision: number
}
