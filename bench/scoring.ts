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

type Frame = Similarity & { file: string; rotation_deg: number; position_mm?: number }
interface Report {
  frames: Frame[]
  /** Where the subject lies; only in the truth. */
  depthRange_mm?: [number, number]
}

/** Root mean square distances of the corners from where the truth has them. */
export interface RegistrationScore {
  all_px: number
  /** Of the frames whose plane of focus lies in the subject, or next to it: beyond, a rail's truth is that of a depth at which there is nothing. */
  onSubject_px: number
}

/** Registration over frames `first` to before `end`, in a picture of so many px. */
export function registrationOf(report: string, truth: string, [width, height] = [720, 480], first = 0, end = Infinity): RegistrationScore {
  const [found, real] = [report, truth].map((file) => JSON.parse(readFileSync(file, 'utf8')) as Report)
  const motion = ({ rotation_deg, ...rest }: Frame): Similarity => ({ ...rest, rotation_rad: (rotation_deg * Math.PI) / 180 })
  const [near, far] = real.depthRange_mm ?? [-Infinity, Infinity]
  const positions = real.frames.map(({ position_mm = 0 }) => position_mm)
  const beside = Math.abs(positions.at(-1)! - positions[0]) / (positions.length - 1) / 2
  const errors = found.frames.slice(first, end).map((frame) => {
    const there = real.frames.find(({ file }) => file === frame.file)!
    const { position_mm = 0 } = there
    const onSubject = position_mm > near - beside && position_mm < far + beside
    return { error: cornerDistance_px(motion(frame), motion(there), width, height), onSubject }
  })
  const rms = (of: typeof errors) => Math.sqrt(of.reduce((sum, { error }) => sum + error * error, 0) / Math.max(1, of.length))
  return { all_px: rms(errors), onSubject_px: rms(errors.filter(({ onSubject }) => onSubject)) }
}
