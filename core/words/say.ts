import { ADVICE } from './advice'
import { DEVICES } from './devices'
import { COMMAND, MACHINE, PAIRING } from './machine'
import { FRAMES, PICTURES } from './pictures'
import { INSPECTING } from './inspecting'
import { FINISHING } from './finishing'
import { MENDING } from './mending'
import { NEEDED } from './needed'
import { NOTES } from './notes'
import { PLANNING } from './planning'
import { ARCHIVES, RECORDS } from './records'
import { SURVEY } from './survey'

/** Every sentence that logic or tests know by its code: refusals, notes, what a survey says. */
const CATALOGUE = {
  ...PICTURES,
  ...FRAMES,
  ...RECORDS,
  ...ARCHIVES,
  ...MACHINE,
  ...COMMAND,
  ...PAIRING,
  ...DEVICES,
  ...FINISHING,
  ...MENDING,
  ...INSPECTING,
  ...NEEDED,
  ...PLANNING,
  ...NOTES,
  ...ADVICE,
  ...SURVEY,
}

export type Code = keyof typeof CATALOGUE
/** The facts a sentence needs; nothing for one that is always the same. */
type FactsOf<Entry> = Entry extends (facts: infer F) => string ? F : undefined
export type Facts<C extends Code> = FactsOf<(typeof CATALOGUE)[C]>

/** A sentence and the code that logic and tests know it by. */
export interface Sentence {
  code: string
  text: string
}

/** Says the sentences of a catalogue. One that only few screens need is not part of {@link CATALOGUE}, which every screen loads. */
export const sayer =
  <Entries extends object>(entries: Entries) =>
  <C extends keyof Entries & string>(code: C, ...[facts]: FactsOf<Entries[C]> extends undefined ? [] : [FactsOf<Entries[C]>]): Sentence => {
    const entry = entries[code] as string | ((facts: unknown) => string)
    return { code, text: typeof entry === 'string' ? entry : entry(facts) }
  }

export const say = sayer(CATALOGUE)

/** A refusal with one sentence for the user; `field` is the path of the value to change, where there is one. */
export class Refusal extends Error {
  readonly code: string

  constructor(
    { code, text }: Sentence,
    readonly field = '',
  ) {
    super(text)
    this.name = 'Refusal'
    this.code = code
  }
}

/** A refusal by its code. `throw refusal('frame.gone')`, `throw refusal('picture.empty', { name }, field)`. */
export function refusal<C extends Code>(
  code: C,
  ...[facts, field]: Facts<C> extends undefined ? [facts?: undefined, field?: string] : [facts: Facts<C>, field?: string]
): Refusal {
  return new Refusal((say as (code: Code, facts?: unknown) => Sentence)(code, facts), field)
}

/**
 * Whether an error is a refusal. Told by name, because the web server bundles this module more than once and `instanceof`
 * then holds for one of the copies only.
 */
export function isRefusal(error: unknown): error is Refusal {
  return error instanceof Error && error.name === 'Refusal'
}
