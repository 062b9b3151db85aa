/** A stroke over the picture: coordinates are px of the fused picture, centres of pixels at whole numbers. */
export interface Stroke {
  path: [number, number][]
  radius_px: number
  /** 0 a hard rim, 1 falling from the middle on. */
  softness: number
  /** 0 … 1. */
  opacity: number
  /** It acts only where the depth of the picture lies between: 0 the nearest frame, 1 the farthest. */
  gate?: { near: number; far: number }
}

/** What is changed, and by what. */
export type MendEdit = { id: string } & (
  | ({ kind: 'donor'; frame: string; /** The donor's local tone is fitted to the picture around the stroke. */ evenTone?: boolean } & Stroke)
  | ({ kind: 'render'; file: string; evenTone?: boolean } & Stroke)
  | ({ kind: 'heal' } & Stroke)
  | ({ kind: 'original' } & Stroke)
  | { kind: 'undo'; of: string }
)

/** An edit that paints. */
export type PaintEdit = Exclude<MendEdit, { kind: 'undo' }>

/** A frame and the line up to which it is shown, from the bottom of the picture upwards; the last one has none. */
export interface BoundaryFrame {
  frame: string
  until?: [number, number][]
  /** How wide the change to the next one is. */
  width_px?: number
}

/** What is painted on: the fused picture, one frame of the run, or frames up to soft lines. */
export type MendBase = 'fused' | { frame: string } | { boundaries: BoundaryFrame[] }

export interface MendDocument {
  base: MendBase
  edits: MendEdit[]
}

/** The frames that a base is made of, from the bottom of the picture upwards. */
export function framesOfBase(base: MendBase): string[] {
  if (base === 'fused') return []
  return 'frame' in base ? [base.frame] : base.boundaries.map(({ frame }) => frame)
}

/** The edits that count, in order: undone ones do not, and an undo that was itself undone does nothing. */
export function standingEdits(edits: MendEdit[]): PaintEdit[] {
  const undone = new Set<string>()
  const standing: PaintEdit[] = []
  for (const edit of [...edits].reverse()) {
    if (undone.has(edit.id)) continue
    if (edit.kind === 'undo') undone.add(edit.of)
    else standing.push(edit)
  }
  return standing.reverse()
}
