import { seenBy, type Mender, type PaintEdit } from '@/core/mend'
import { meeting, type Rectangle } from '@/core/raster'

/** Parts of donors, by the edits that wait for them; an edit that needs none has none. */
export type Parts = Map<PaintEdit, { part: Rectangle; samples: Uint16Array }[]>

/**
 * Edits that have yet to be made. Each is made as soon as its parts are there and no earlier one that it meets is left: those that do not
 * meet come to the same in any order.
 */
export class Easel {
  private left: { edit: PaintEdit; seen: Rectangle }[]

  constructor(edits: PaintEdit[], size: { width: number; height: number }) {
    this.left = edits.map((edit) => ({ edit, seen: seenBy(edit, size.width, size.height) }))
  }

  /** Makes what can be made, and lets go of the parts that it needed. */
  paint(mender: Mender, parts: Parts): void {
    const waiting: typeof this.left = []
    for (const one of this.left) {
      const { edit, seen } = one
      const ready = !isPainted(edit) || parts.has(edit)
      if (!ready || waiting.some((earlier) => meet(earlier.seen, seen))) {
        waiting.push(one)
        continue
      }
      if (edit.kind === 'heal') mender.heal(edit)
      else if (edit.kind === 'original') mender.restore(edit)
      else for (const { part, samples } of parts.get(edit)!) mender.paint(edit, part, samples)
      parts.delete(edit)
    }
    this.left = waiting
  }
}

/** Whether an edit's pixels come from another picture. */
const isPainted = ({ kind }: PaintEdit) => kind === 'donor' || kind === 'render'

function meet(a: Rectangle, b: Rectangle): boolean {
  const { width, height } = meeting(a, b)
  return width > 0 && height > 0
}
