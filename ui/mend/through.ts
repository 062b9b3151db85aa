import type { PaintEdit, Stroke } from '@/core/mend'
import type { NamedFrame } from '../namedFrames'

/** What shows through the porthole. */
export type Through =
  | { kind: 'donor'; index: number }
  /** The frame that is seen at the place one rests on. */
  | { kind: 'sharpest' }
  | { kind: 'render'; id: number }
  | { kind: 'heal' }
  | { kind: 'original' }

/** What another render is called in an edit. */
export const renderName = (id: number) => `render-${id}`

/** The edit that a stroke makes of what shows through; nothing where no frame is known yet. */
export function editOf(
  through: Through,
  stroke: Stroke & { id: string },
  frames: NamedFrame[],
  sharpest: number | undefined,
  evenTone: boolean,
): PaintEdit | undefined {
  switch (through.kind) {
    case 'donor':
      return { ...stroke, kind: 'donor', frame: frames[through.index].file, evenTone }
    case 'sharpest':
      return sharpest === undefined ? undefined : { ...stroke, kind: 'donor', frame: frames[sharpest].file, evenTone }
    case 'render':
      return { ...stroke, kind: 'render', file: renderName(through.id), evenTone }
    case 'heal':
    case 'original':
      return { ...stroke, kind: through.kind }
  }
}

/** What shows through, in a few words. */
export function throughText(through: Through | undefined, frames: NamedFrame[], sharpest: number | undefined): string {
  switch (through?.kind) {
    case undefined:
      return 'choose a frame below'
    case 'donor':
      return `frame ${frames[through.index].number}`
    case 'sharpest':
      return sharpest === undefined ? 'rest to find the sharpest' : `frame ${frames[sharpest].number}, sharpest here`
    case 'render':
      return 'another render'
    case 'heal':
      return 'healed from around'
    case 'original':
      return 'as it was'
  }
}
