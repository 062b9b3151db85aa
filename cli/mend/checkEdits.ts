import { framesOfBase, standingEdits, strokeBounds, type MendBase, type MendDocument, type PaintEdit } from '@/core/mend'
import { refusal } from '@/core/words'

/**
 * The edits to carry out, found to be sensible for a picture of this size.
 * @throws Refusal naming the edit that is not.
 */
export function checkEdits({ edits }: MendDocument, width: number, height: number): PaintEdit[] {
  const seen = new Set<string>()
  for (const edit of edits) {
    if (seen.has(edit.id)) throw refusal('mend.twice', { id: edit.id })
    if (edit.kind === 'undo' && !seen.has(edit.of)) throw refusal('mend.undoUnknown', { id: edit.id, of: edit.of })
    seen.add(edit.id)
  }
  const standing = standingEdits(edits)
  for (const edit of standing) {
    const bounds = strokeBounds(edit, width, height)
    if (bounds.width === 0 || bounds.height === 0) throw refusal('mend.outside', { id: edit.id })
  }
  return standing
}

/** The frames that a base is made of, the one at the top first. @throws Refusal where a line is missing, or one too many. */
export function framesFromTop(base: MendBase): string[] {
  if (base !== 'fused' && 'boundaries' in base) {
    const lines = base.boundaries.map(({ until }) => until !== undefined)
    if (lines.pop() !== false || lines.includes(false)) throw refusal('mend.lastBoundary')
  }
  return framesOfBase(base).reverse()
}
