import type { RenderInShort } from '@/schemas'
import { momentText } from '@/core/units'

/** The settings of a render, as one reads them when choosing between two. */
export function settingsText({ report: { style, frameCount, moved, referenceNumber, settings, mend }, created_at }: RenderInShort): string {
  const edits = mend && `mended in ${mend.edits} ${mend.edits === 1 ? 'place' : 'places'}`
  const more = [
    edits,
    !settings.register && 'not registered',
    moved === 'parts' ? 'moved parts from one frame each' : moved === 'followed' && 'moved parts followed',
    settings.crop === 'none' && 'not cropped',
  ]
  const { sharp, prefer } = settings
  const tuned = [
    settings.finest && 'finest detail',
    prefer && prefer !== 'none' && `${prefer} depth first`,
    sharp && `sharp from ${sharp.from} to ${sharp.to}`,
  ]
  return [`${style}, ${frameCount} frames, framed as ${referenceNumber}`, ...[...more, ...tuned].filter(Boolean), momentText(created_at)].join(', ')
}
