import { refusal } from '@/core/words'

/** What most disks take for a file name, in bytes. */
const MOST_BYTES = 255

/**
 * A file name as a photographer may have it: anything that is one name and no place.
 * @throws Refusal where it is none.
 */
export function plainName(name: string): string {
  const length = new TextEncoder().encode(name).length
  // eslint-disable-next-line no-control-regex -- names with control characters are what is looked for
  if (length === 0 || length > MOST_BYTES || /[/\\\u0000-\u001f\u007f]/.test(name) || name === '.' || name === '..')
    throw refusal('frame.name', { name })
  return name
}

/** Names that every disk keeps as they are, Windows' forbidden ones left out. */
const KEPT_EVERYWHERE = /^(?!(?:con|prn|aux|nul|com\d|lpt\d)(?:\.|$))[A-Za-z0-9_][A-Za-z0-9 ._()+-]{0,150}[A-Za-z0-9]$/i

/**
 * What a frame is stored as: its own name where every disk keeps that and no other frame of the run has it in capitals or
 * without; else a name of ours. It is shown under its own name either way.
 */
export function storedName(name: string, uid: string, others: { file: string }[]): string {
  const taken = others.some(({ file }) => file.toLowerCase() === name.toLowerCase())
  if (KEPT_EVERYWHERE.test(name) && !taken) return name
  const [ending] = /\.[A-Za-z]+$/.exec(name) ?? ['']
  return `${uid}${ending.toLowerCase()}`
}
