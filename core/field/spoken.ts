import type { Phase } from './pace'

/** What the photographer is to do in each phase, said aloud. Short: the eyes are on the subject. */
const SAID: Record<Phase['kind'], string> = {
  filterOff: 'Filter off.',
  move: 'Focus to',
  filterOn: 'Filter on.',
  wait: 'Hands off.',
  recycle: 'Flash charging.',
  shutter: 'Press now.',
  expose: 'Exposing.',
  confirm: 'Press now.',
}

/**
 * A phase of a frame as it is said aloud: the number of the frame with its first phase, the reading where the focus is to be moved,
 * and how long to wait where it is counted. After an exposure that was counted (`asked`) the press is over: how it went is what is left to say.
 */
export function spokenOf(
  phase: Phase,
  { number, first, reading, asked = false }: { number: number; first: boolean; reading: string; asked?: boolean },
): string {
  const said = phase.kind === 'move' ? `${SAID.move} ${asWords(reading)}.` : asked ? 'Taken?' : SAID[phase.kind]
  const waits = phase.seconds !== undefined && phase.seconds >= 1 ? ` ${Math.round(phase.seconds)} seconds.` : ''
  return `${first ? `Frame ${number}. ` : ''}${said}${waits}`
}

/** Units and signs that voices stumble over. */
function asWords(reading: string): string {
  return reading
    .replace(/(\d)\s*mm\b/g, '$1 millimetres')
    .replace(/(\d)\s*m\b/g, '$1 metres')
    .replace(/(\d)\s*in\b/g, '$1 inches')
    .replaceAll('∞', 'infinity')
    .replaceAll('−', 'minus ')
}
