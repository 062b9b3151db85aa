/** What the rest has to know of a thing that moves the focus. */
export interface MoverFacts {
  /** The whole camera moves and its viewpoint with it; else the lens focuses from one place. */
  movesCamera: boolean
  /** On run cards. */
  name: string
  /** What drives it, in sentences: "The smallest step of the …". */
  drive: string
  /** What is done before each frame. */
  action: 'move' | 'focus'
  /** Where the picture is tightest, so that one composes there. */
  tightestEnd: 'near' | 'far'
  /** Part of a picture's edge that is lost, as shown by "why?". */
  edgeLossFormula: string
}

/**
 * What can move the focus. A new mover is an entry here; the compiler then asks for each of its facts, and wherever one
 * mover needs code of its own.
 */
export const MOVERS = {
  rail: {
    movesCamera: true,
    name: 'rail',
    drive: 'rail',
    action: 'move',
    tightestEnd: 'far',
    edgeLossFormula: '1 − z / (z + travel), z from the entrance pupil',
  },
  ring: {
    movesCamera: false,
    name: 'focus ring',
    drive: 'focus drive',
    action: 'focus',
    tightestEnd: 'near',
    edgeLossFormula: '1 − v_far / v_near',
  },
} as const satisfies Record<string, MoverFacts>

export type MoverKind = keyof typeof MOVERS

export const MOVER_KINDS = Object.keys(MOVERS) as MoverKind[]

export const isMoverKind = (kind: unknown): kind is MoverKind => MOVER_KINDS.includes(kind as MoverKind)

export const movesCamera = (kind: MoverKind): boolean => MOVERS[kind].movesCamera
