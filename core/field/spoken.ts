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

/** A press of the body's own bracketing as it is said aloud: what to set and where to begin; once pressed, how long to leave it alone. */
export function spokenPartOf(
  { part, of, step, frames, begin, seconds }: { part: number; of: number; step: number; frames: number; begin: string; seconds: number },
  pressed: boolean,
): string {
  if (pressed) return `Hands off. ${Math.round(seconds)} seconds. All taken?`
  return `${of > 1 ? `Part ${part} of ${of}. ` : ''}Step ${step}, ${frames} frames. ${part === 1 ? `Begin at ${asWords(begin)}` : 'Leave the ring alone'}. Press once.`
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
