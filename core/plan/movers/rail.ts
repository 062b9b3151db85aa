import { refusal } from '../../words'

/** A manual rail: one turn of its screw, the marks on its dial, and its length. */
export interface ManualRail {
  pitch_mm: number
  marksPerTurn: number
  length_mm: number
}

/** Where the dial stands: whole turns since zero and the mark, which need not be a whole one. */
export interface DialReading {
  turns: number
  marks: number
}

/** One mark of the dial, in mm of travel: pitch / marks. */
export function railResolution_mm({ pitch_mm, marksPerTurn }: ManualRail): number {
  return pitch_mm / marksPerTurn
}

/** The dial for a travel from zero, to the nearest mark; a full turn counts as the next one. */
export function dialAt(travel_mm: number, rail: ManualRail): DialReading {
  const marks = Math.round(travel_mm / railResolution_mm(rail))
  return { turns: Math.floor(marks / rail.marksPerTurn), marks: marks % rail.marksPerTurn }
}

/**
 * Refuses a series that runs beyond the rail.
 * @throws Refusal with the depth that would fit.
 */
export function checkTravel(travel_mm: number, { length_mm }: Pick<ManualRail, 'length_mm'>): void {
  if (travel_mm > length_mm) {
    throw refusal('plan.railTooShort', { travel_mm: travel_mm.toFixed(1), length_mm }, 'mover.length_mm')
  }
}
