import type { RenderDetail } from '@/schemas'
import { momentText } from '@/core/units'

/** The settings of a render, as one reads them when choosing between two. */
export function settingsText({ report: { style, frames, parts = [], reference, settings, mend }, created_at }: RenderDetail): string {
  const followed = frames.some(({ bent_px }) => bent_px)
  const place = frames.findIndex(({ file }) => file === reference) + 1
  const edits = mend && `mended in ${mend.edits} ${mend.edits === 1 ? 'place' : 'places'}`
  const more = [
    edits,
    !settings.register && 'not registered',
    parts.length > 0 ? 'moved parts from one frame each' : followed && 'moved parts followed',
    settings.crop === 'none' && 'not cropped',
  ]
  const { sharp, prefer } = settings
  const tuned = [
    settings.finest && 'finest detail',
    prefer && prefer !== 'none' && `${prefer} depth first`,
    sharp && `sharp from ${sharp.from} to ${sharp.to}`,
  ]
  return [`${style}, ${frames.length} frames, framed as ${place}`, ...[...more, ...tuned].filter(Boolean), momentText(created_at)].join(', ')
}
