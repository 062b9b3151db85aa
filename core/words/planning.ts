/** Why a plan cannot be made, and what to change. */
export const PLANNING = {
  'plan.tooMany': ({ count, most }: { count: string; most: number }) =>
    `This would take ${count} frames. The limit is ${most}: allow more blur, stop down, overlap less, or plan the subject in parts.`,
  'plan.needsMagnification': 'Give the magnification.',
  'plan.resolution': ({ mover, resolution_mm, wanted }: { mover: string; resolution_mm: number; wanted: string }) =>
    `The smallest step of the ${mover} is ${resolution_mm} mm, and this plan needs ${wanted} mm. Stop down, allow more blur, or use a finer ${mover}.`,
  'plan.rangeNeedsLens': 'Distances need a lens. Plan an objective by depth.',
  'plan.blurTooWide': 'The allowed blur is as wide as the aperture itself. Allow less.',
  'plan.farNearer': 'The farthest point is nearer than the nearest one. Swap the two.',
  'plan.tooNear': ({ focalLength_mm, least_mm, from }: { focalLength_mm: number; least_mm: number; from: string }) =>
    `A ${focalLength_mm} mm lens cannot focus that near. The nearest point must be more than ${least_mm} mm from the ${from}.`,
  'plan.frameTime': ({ each_s }: { each_s: string }) => `One frame takes ${each_s} s. Enter at least that.`,
  'plan.railTooShort': ({ travel_mm, length_mm }: { travel_mm: string; length_mm: number }) =>
    `The series needs ${travel_mm} mm of travel and the rail has ${length_mm} mm. Plan the subject in parts, or use a longer rail.`,
  'plan.stepTooLarge': ({ step_mm, wanted_mm }: { step_mm: string; wanted_mm: string }) =>
    `Step 1 moves the focus by ${step_mm} mm, and this plan needs ${wanted_mm} mm. Stop down, allow more blur, or use a rail.`,
  'plan.noChain': 'This body takes one frame at a time and cannot bracket. Use a rail.',
  'plan.oneAperture': 'An objective has one aperture. There is nothing to choose.',
  'plan.noRailMoves': 'A plan by distances is focused with the ring. There is nothing for a rail to do.',
  'plan.fNumber': ({ lens, widest, smallest }: { lens: string; widest: number; smallest: number }) =>
    `${lens} goes from f/${widest} to f/${smallest}. Choose one of these.`,
  'plan.magnification': ({ lens, most }: { lens: string; most: number }) =>
    `${lens} reaches ${most} : 1 on its own. Choose at most that, or add tubes, a close-up lens or a reversed lens.`,
  'plan.lensTooNear': ({ lens, nearest_mm }: { lens: string; nearest_mm: number }) =>
    `${lens} does not focus nearer than ${nearest_mm} mm from the sensor. Step back to there, or plan close up with tubes or a close-up lens.`,
  'plan.lensCloser': ({ lens, most, closest_mm }: { lens: string; most: number; closest_mm: number }) =>
    `${lens} reaches ${most} : 1 on its own, at ${closest_mm} mm from the sensor. Step back to there, or use tubes or a close-up lens.`,
  'plan.noBracketing': ({ body }: { body: string }) => `${body} has no focus bracketing. Move the focus by ring or rail.`,
  'plan.objectiveDrive': 'An objective has no focus drive. Use a rail.',
  'plan.noSensorShift': ({ body }: { body: string }) => `${body} does not shift its sensor. Switch it off, or choose another body.`,
  'plan.noGear': ({ what }: { what: string }) => `The kit has no ${what} yet. Add one in the kit.`,
  'plan.gearGone': ({ what, name }: { what: string; name: string }) => `“${name}” is no longer in the kit. Choose another ${what}.`,
  'plan.above': ({ what }: { what: string }) => `Give ${what}: a number above 0.`,
  'plan.within': ({ what }: { what: string }) => `Give ${what}.`,
} as const
