import { refusal } from '../words'
import type { FieldEntry } from './log'

/** A log that was kept on a card file and is carried home. */
export interface CarriedLog {
  /** The shoot that it is of, by its name in every copy of the studio's data. */
  shoot: string
  title: string
  entries: FieldEntry[]
}

/** What stands before each part of a log, so that another code that is photographed with it is not taken for one. */
const MARK = 'FIELD1'
/** Letters of a part: a code of so many is read off a small screen by any camera. */
const PART_letters = 700

/**
 * A text in parts for codes that are photographed: each begins with a mark, what belongs together, its number and how many there are.
 * @param name the same for all parts of one text and no other, without colons.
 */
export function partsOf(text: string, name: string): string[] {
  const count = Math.max(1, Math.ceil(text.length / PART_letters))
  return Array.from({ length: count }, (_, k) => [MARK, name, k + 1, count, text.slice(k * PART_letters, (k + 1) * PART_letters)].join(':'))
}

/**
 * The text of parts in any order, some of them perhaps twice, and what else was photographed with them.
 * @throws Refusal where there are none, some are missing, or they are of several logs.
 */
export function joinedParts(read: string[]): string {
  const parts = read.flatMap((text) => {
    const [mark, name, number, count, ...rest] = text.split(':')
    return mark === MARK ? [{ name, number: Number(number), count: Number(count), text: rest.join(':') }] : []
  })
  if (parts.length === 0) throw refusal('carried.none')
  const [{ name, count }] = parts
  if (parts.some((part) => part.name !== name || part.count !== count)) throw refusal('carried.several')
  const byNumber = new Map(parts.map(({ number, text }) => [number, text]))
  const missing = Array.from({ length: count }, (_, k) => k + 1).filter((number) => !byNumber.has(number))
  if (missing.length > 0) throw refusal('carried.missing', { missing, count })
  return Array.from({ length: count }, (_, k) => byNumber.get(k + 1)).join('')
}

/** The entries of a log as it was kept; none where nothing was. @throws SyntaxError where it is no JSON. */
export function storedEntries(text: string | null): FieldEntry[] {
  const entries: unknown = JSON.parse(text ?? '[]')
  return Array.isArray(entries) ? entries : []
}
