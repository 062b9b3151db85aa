import type { LibRawSettings } from 'libraw-wasm'
import { toWide, type Development } from '@/core/develop'
import type { TakenWith } from '@/core/formats'
import type { Interleaved } from '@/core/raster'
import { profileOf } from '../convert'
import { writePicture } from '../writePicture'
import type { RawFile, RawMetadata } from './library'

/** Nothing is done by itself: frames of a series would be made different. Light stays proportional, in the camera's own colours. */
export const PLAIN: LibRawSettings = {
  noAutoBright: true,
  adjustMaximumThr: 0,
  useCameraWb: false,
  outputColor: 0,
  outputBps: 16,
  // The library takes six numbers, whatever its description says.
  gamm: [1, 1, 0, 0, 0, 0] as unknown as [number, number],
}

/** A raw file developed: encoded samples in the wide space. */
export type Developed = Interleaved & { taken: TakenWith }

/** How the library scales the light of a development, and what remains to be done. */
export function scalingOf({ multipliers, headroom }: Development): { scaling: LibRawSettings; gain: number } {
  const [red, green, blue] = multipliers
  // Where more than white is kept, the library leaves room for it, and finds a colour for what is beyond.
  const BLENDED = 2
  const keeps = headroom > 1
  return {
    scaling: { highlight: keeps ? BLENDED : 0, userMul: [red, green, blue, green] },
    gain: keeps ? Math.max(...multipliers) / headroom : 1,
  }
}

/** Develops a file that was opened with the scaling of the development. */
export function developedBy(raw: RawFile, gain: number): Developed {
  const facts = raw.metadata(true)
  const { width, height, data } = raw.imageData()
  const samples = data as Uint16Array
  toWide(samples, srgbOf(facts), gain)
  return { samples, width, height, taken: takenWith(facts) }
}

export const srgbOf = ({ color_data }: RawMetadata) => color_data.rgb_cam.map((row) => row.slice(0, 3))

export function takenWith({
  camera_model,
  lens,
  shutter,
  aperture,
  focal_len,
  iso_speed,
  timestamp,
}: Omit<RawMetadata, 'flip' | 'width' | 'height' | 'colors' | 'color_data'>): TakenWith {
  const known = (value: number) => (value > 0 && Number.isFinite(value) ? Number(value.toPrecision(6)) : undefined)
  return {
    body: camera_model?.trim().slice(0, 80) || undefined,
    lens: lens?.Lens?.trim().slice(0, 80) || undefined,
    taken_at: timestamp > 0 ? clockOf(timestamp) : undefined,
    exposure_s: known(shutter),
    fNumber: known(aperture),
    focalLength_mm: known(focal_len),
    iso: known(iso_speed),
  }
}

/** Cameras note no time zone, and the library takes theirs for this machine's: what the clock showed, kept as UTC. */
function clockOf(timestamp: number): string {
  const at = new Date(timestamp * 1000)
  return new Date(at.getTime() - at.getTimezoneOffset() * 60_000).toISOString()
}

export const writeDeveloped = (out: string, { taken, samples, width, height }: Developed) =>
  writePicture(out, { samples: samples as Uint16Array, width, height }, { bits: 16, icc: profileOf('wide'), taken, software: 'Nitidus' })
