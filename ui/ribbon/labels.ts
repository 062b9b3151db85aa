/** Width of a letter of a label, in px, roughly; labels need only keep apart, not be measured. */
const LETTER = 6.6
const GAP = 8

export interface PlacedLabel {
  /** Middle of the label. */
  at: number
  /** 0 is nearest to what it names; higher rows lie farther off. */
  row: number
}

/** Places labels over their points in as few rows as keep them apart, none beyond 0 … `width`. */
export function placeLabels(labels: { at: number; text: string }[], width: number): PlacedLabel[] {
  const ends: number[] = []
  const order = labels.map((_, k) => k).sort((a, b) => labels[a].at - labels[b].at)
  const placed: PlacedLabel[] = []
  for (const k of order) {
    const half = (labels[k].text.length * LETTER) / 2
    const at = Math.max(half, Math.min(width - half, labels[k].at))
    const free = ends.findIndex((end) => at - half >= end + GAP)
    const row = free < 0 ? ends.length : free
    ends[row] = at + half
    placed[k] = { at, row }
  }
  return placed
}
