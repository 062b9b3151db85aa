import type { Scene } from '../scene'
import type { SceneName } from '../sceneNames'
import { bowlScene } from './bowl'
import { bristlesScene } from './bristles'
import { fossilScene } from './fossil'
import { gardenScene } from './garden'
import { meadowScene } from './meadow'
import { nibScene } from './nib'
import { targetScene, USUAL_SHEET, type SheetSetup } from './target'
import { wingScene } from './wing'

/** Every scene by its name. */
export const SCENES: Record<string, (seed: number) => Scene> & Record<SceneName, (seed: number) => Scene> = {
  fossil: fossilScene,
  nib: nibScene,
  bristles: bristlesScene,
  garden: gardenScene,
  meadow: meadowScene,
  bowl: bowlScene,
  wing: wingScene,
  target: () => targetScene(USUAL_SHEET),
}

const built = new Map<string, Scene>()
/** A scene takes a second to build and some megabytes to keep. */
const KEPT = 2

/** The scene of a name and a seed, built once for the series that are taken of it one after another. */
export function sceneOf(name: string, seed: number, sheet?: SheetSetup): Scene {
  const key = `${name} ${seed} ${sheet ? JSON.stringify(sheet) : ''}`
  const scene = built.get(key) ?? (sheet && name === 'target' ? targetScene(sheet) : SCENES[name](seed))
  // The newest last: the first goes when there are too many.
  built.delete(key)
  built.set(key, scene)
  if (built.size > KEPT) built.delete(built.keys().next().value!)
  return scene
}
