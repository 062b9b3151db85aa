import { say } from '../words'
import type { Rectangle } from '../raster'
import type { Finding, Place, Suggestion } from './place'

/** A finding in words, with files for frames, at its place of the picture. */
export function told({ kind, severity, frames, suggestion }: Omit<Finding, 'cells'>, place: Rectangle, files: string[]): Place {
  const suggested: Suggestion | null = suggestion && 'frame' in suggestion ? { frame: files[suggestion.frame] } : suggestion
  return { ...place, kind, severity: Math.round(severity * 100) / 100, text: textOf({ kind, frames, suggestion }, files), suggestion: suggested }
}

function textOf({ kind, frames, suggestion }: Pick<Finding, 'kind' | 'frames' | 'suggestion'>, files: string[]): string {
  const [first, second] = frames.map((frame) => files[frame])
  switch (kind) {
    case 'ghost':
      return (suggestion && 'frame' in suggestion ? say('place.ghost', { frame: files[suggestion.frame] }) : say('place.ghost-unsure')).text
    case 'halo':
      return say('place.halo', { near: first, far: second }).text
    case 'soft':
      return say('place.soft', { frame: first }).text
    case 'neverSharp':
      if (frames.length === 2) return say('place.neverSharp-between', { after: first, before: second }).text
      return say(frames[0] === 0 ? 'place.neverSharp-near' : 'place.neverSharp-far').text
    case 'crossing':
      return say('place.crossing', { near: first, far: second }).text
    case 'dust':
      return say('place.dust').text
    case 'edge':
      return say('place.edge').text
    case 'clipped':
      return say('place.clipped').text
  }
}
