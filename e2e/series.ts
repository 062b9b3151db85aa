import { execFileSync } from 'node:child_process'
import { existsSync, mkdirSync, readdirSync, writeFileSync } from 'node:fs'
import path from 'node:path'

/** A small simulated series as files, made once by the real command, in a breeze if so asked; answers their paths in focus order. */
export function seriesFiles(folder: string, breeze_mm?: number): string[] {
  if (!existsSync(path.join(folder, 'truth.json'))) {
    mkdirSync(folder, { recursive: true })
    const scene = path.join(folder, '..', 'scene.json')
    writeFileSync(
      scene,
      JSON.stringify({
        scene: 'bristles',
        camera: { width_px: 360, height_px: 240, mover: 'ring', fNumber: 5.6 },
        positions_mm: [0, 1.6, 3.2, 4.8, 6.4],
        breeze_mm,
      }),
    )
    execFileSync(process.execPath, ['dist/nitidus.mjs', 'simulate', scene, '--out', folder])
  }
  return readdirSync(folder)
    .filter((name) => name.endsWith('.jpg'))
    .sort()
    .map((name) => path.join(folder, name))
}
