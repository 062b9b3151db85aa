import type { Scene } from '../scene'
import { bowlScene } from './bowl'
import { bristlesScene } from './bristles'
import { fossilScene } from './fossil'
import { gardenScene } from './garden'
import { nibScene } from './nib'
import { wingScene } from './wing'

/** Every scene by its name. */
export const SCENES: Record<string, (seed: number) => Scene> = {
  fossil: fossilScene,
  nib: nibScene,
  bristles: bristlesScene,
  garden: gardenScene,
  bowl: bowlScene,
  wing: wingScene,
}
