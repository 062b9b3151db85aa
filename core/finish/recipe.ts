import type { Rectangle } from '../raster'
import type { CardColour } from './card'

/** A place of the picture, in px; middles of pixels at whole numbers. */
export type Place = [x: number, y: number]

/**
 * What is done to a picture, in order; places and lengths are of the picture as it is at that step. Stops are in light: one more is twice
 * as much.
 */
export type Step = (
  | ({ do: 'crop' } & Rectangle)
  /** Turned clockwise by so much, and cut to the largest upright picture of the same shape. */
  | { do: 'straighten'; degrees: number }
  /** What is there becomes grey, as light as before. */
  | { do: 'neutral'; at: Place; radius_px: number }
  /** What a grey card had, by its colour (XYZ adapted to D50, Y = 1), becomes grey; `frame` is where it was seen. */
  | { do: 'card'; card: CardColour; frame?: string }
  | { do: 'light'; stops: number }
  /** Rungs of a ladder: what light in stops from white becomes; it rises throughout. */
  | { do: 'tones'; points: [from: number, to: number][] }
  /** 0 grey, 1 as it is. */
  | { do: 'colour'; strength: number }
  /** All of it at and beyond `from`, none at and beyond `to`. */
  | { do: 'gradient'; from: Place; to: Place; stops: number }
  /** The same along the depth: 0 the nearest frame, 1 the farthest. */
  | { do: 'depthGradient'; from: number; to: number; stops: number }
  | { do: 'local'; path: Place[]; radius_px: number; softness: number; stops: number; gate?: { near: number; far: number } }
  | { do: 'sharpen'; radius_px: number; amount: number; threshold: number }
  | ({ do: 'size' } & Size)
  /** A bar of a length on the subject, where a pixel of the picture that the recipe began with shows `pixel_mm`. */
  | { do: 'scaleBar'; pixel_mm: number; length_mm: number }
  /** Words in a strip beneath the picture; `{title}` and others stand for what is known of it. */
  | { do: 'caption'; text: string; tone: 'light' | 'dark' }
) & {
  /** Kept in the list, and not carried out. */
  off?: boolean
}

export type StepName = Step['do']
export type StepOf<K extends StepName> = Extract<Step, { do: K }>

/** The long edge, or the width on paper. */
export type Size = { long_px: number } | { width_mm: number; perInch: number }

/** Spaces that a picture may be delivered in: as it is, or converted. */
export const PROFILES = ['keep', 'srgb', 'p3', 'wide'] as const
export type Profile = (typeof PROFILES)[number]

/** A picture that a recipe is for. */
export interface MadeFor {
  width: number
  height: number
  /** Size of a pixel on the subject, where it is known. */
  pixel_mm?: number
}

export interface Recipe {
  steps: Step[]
  profile: Profile
  bits: 8 | 16
  /** Of JPEG, WebP and AVIF, 1 … 100. */
  quality: number
  /** What it was made for, where it is to be used for other pictures: their places lie alike. */
  for?: MadeFor
}

/** A picture as it is: not a sample changes. */
export const AS_IT_IS: Recipe = { steps: [], profile: 'keep', bits: 16, quality: 92 }
