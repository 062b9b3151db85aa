/** What a plan notes beside its figures. */
export const NOTES = {
  'note.range-by-ring': 'Distances are set with the focus ring. The rail stays where it is.',
  'note.diffraction-exceeds-criterion': ({ diffraction, allowed, instead }: { diffraction: string; allowed: string; instead: string }) =>
    `Diffraction alone blurs ${diffraction}, and ${allowed} is allowed. No series can bring that sharpness back. ${instead}`,
  'note.wave-floor': 'Diffraction, not the blur you allow, sets how thin a slice is.',
  'note.scale-at-near-edge': 'Magnification is taken at the near edge. Focusing farther away makes slices thicker, so the overlap only grows.',
  'wider.objective': 'An objective with a larger aperture would.',
  'wider.open': ({ fNumber }: { fNumber: number }) => `Open up to f/${fNumber} or wider.`,
  'wider.none': 'No aperture does at this magnification. Allow more blur.',
  'single.possible': 'One frame holds the whole depth.',
  'single.objective': 'The objective holds less depth than the subject has.',
  'single.at': ({ fNumber }: { fNumber: number }) => `One frame at f/${fNumber} holds the whole subject.`,
  'single.diffraction': 'At every aperture diffraction blurs more than you allow.',
  'single.notEnough': ({ fNumber }: { fNumber: number }) =>
    `Even at f/${fNumber}, the smallest opening that is still sharp enough, one frame does not hold the whole subject.`,
} as const
