import type { FuseSettings } from '@/schemas'

/** What is tried on the part in view. */
export type Tried = Pick<FuseSettings, 'style' | 'prefer' | 'boundary' | 'neighbourhood' | 'floor' | 'sharp'>

/** What is tried, in words: the style, and what differs from its own choice. */
export function triedText({ style, prefer, boundary, neighbourhood, floor, sharp }: Tried): string {
  const parts = [
    prefer && prefer !== 'none' && `${prefer} depth first`,
    boundary !== undefined && boundary !== 0.5 && `borders ${boundary < 0.5 ? 'harder' : 'softer'}`,
    neighbourhood !== undefined && `neighbourhood ${neighbourhood}`,
    floor !== undefined && floor !== 1 && `floor ${floor}`,
    sharp && `sharp in frames ${sharp.from} to ${sharp.to}`,
  ]
  return [style, ...parts.filter(Boolean)].join(', ')
}
