import type { MoverKind } from '../movers'

/**
 * What may be chosen on the plan sheet to move the focus, and the mover that it is reckoned as. The body's own bracketing
 * turns the focus ring by itself.
 */
export const SHEET_MOVERS = {
  rail: { label: 'Rail', kind: 'rail' },
  ring: { label: 'Focus ring', kind: 'ring' },
  bracketing: { label: 'The body’s own bracketing', kind: 'ring' },
} as const satisfies Record<string, { label: string; kind: MoverKind }>

export type SheetMover = keyof typeof SHEET_MOVERS

/** The mover of a sheet. Distances are always set with the ring. */
export const moverKindOf = ({ kind, mover }: { kind: 'depth' | 'range'; mover: SheetMover }): MoverKind =>
  kind === 'range' ? 'ring' : SHEET_MOVERS[mover].kind
