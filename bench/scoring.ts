import { execFileSync, spawnSync } from 'node:child_process'
import { readdirSync, readFileSync } from 'node:fs'
import path from 'node:path'
import { cornerDistance_px, type Similarity } from '@/core/raster'

const PYTHON = '/usr/bin/python3'

export interface Score {
  psnr_dB: number
  ssim: number
  psnr_p5_dB: number
}

/** Runs the `nitidus` command. */
export const command = (...args: string[]) =>
  execFileSync(process.execPath, ['dist/nitidus.mjs', ...args], { stdio: ['ignore', 'ignore', 'inherit'] })

/** A fused picture against the truth; `tools` is the folder with `score.py` and `textbook_fuse.py`. */
export function score(tools: string, picture: string, truth: string): Score {
  return JSON.parse(execFileSync(PYTHON, [path.join(tools, 'score.py'), picture, truth], { encoding: 'utf8' })) as Score
}

/** Fuses a series with the textbook pipeline; false where that gives up. */
export function textbook(tools: string, series: string, out: string): boolean {
  const frames = readdirSync(series).filter((file) => file.endsWith('.jpg'))
  const args = [path.join(tools, 'textbook_fuse.py'), out, ...frames.map((file) => path.join(series, file))]
  return spawnSync(PYTHON, args, { encoding: 'utf8' }).status === 0
}

type Frame = Similarity & { file: string; rotation_deg: number }
type Report = { reference: string; frames: Frame[] }

/** Root mean square distance of the corners from where the truth has them, over frames `first` to before `end`, in a picture of so many px. */
export function registrationOf_px(report: string, truth: string, [width, height] = [720, 480], first = 0, end = Infinity): number {
  const [found, real] = [report, truth].map((file) => JSON.parse(readFileSync(file, 'utf8')) as Report)
  const motion = ({ rotation_deg, ...rest }: Frame): Similarity => ({ ...rest, rotation_rad: (rotation_deg * Math.PI) / 180 })
  const errors = found.frames.slice(first, end).map((frame) => {
    const there = real.frames.find(({ file }) => file === frame.file)!
    return cornerDistance_px(motion(frame), motion(there), width, height)
  })
  return Math.sqrt(errors.reduce((sum, error) => sum + error * error, 0) / errors.length)
}
