import type { Kit } from '@/core/kit'
import { NEW_SHEET, planSheet } from '@/core/sheet'
import type { ShootRequest } from '@/schemas'

/** A series that is quickly shot: half life size by the focus ring, some ten frames. @throws Refusal where the kit cannot do it. */
export function firstShoot(kit: Kit): ShootRequest {
  const sheet = {
    ...NEW_SHEET,
    body: kit.bodies[0]?.name ?? '',
    lens: (kit.lenses.find(({ mostMagnification = 0 }) => mostMagnification >= 0.5) ?? kit.lenses[0])?.name ?? '',
    light: kit.lights[0]?.name ?? '',
    mover: 'ring' as const,
    fNumber: 16,
    magnification: 0.5,
    depth_mm: 34,
    width_mm: 60,
    blur_pixels: 6,
    overlap_percent: 20,
    leadIn_slices: 0.5,
    runOut_slices: 0.5,
  }
  return {
    title: 'My first series',
    subject: 'A pen nib, on the simulated camera',
    scene: 'nib',
    plan: planSheet(sheet, kit).request,
    sheet,
  }
}
