import { ADVICE } from './advice'
import { DEVICES } from './devices'
import { COMMAND, MACHINE } from './machine'
import { FRAMES, PICTURES } from './pictures'
import { INSPECTING } from './inspecting'
import { FINISHING } from './finishing'
import { MENDING } from './mending'
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
  ...DEVICES,
  ...FINISHING,
  ...MENDING,
  ...INSPECTING,
  ...PLANNING,
  ...NOTES,
  ...ADVICE,
  ...SURVEY,
}

export type Code = keyof typeof CATALOGUE
/** The facts a sentence needs; nothing for one that is always the same. */
export type Facts<C extends Code> = (typeof CATALOGUE)[C] extends (facts: infer F) => string ? F : undefined

/** A sentence and the code that logic and tests know it by. */
export interface Sentence {
  code: string
  text: string
}

export function say<C extends Code>(code: C, ...[facts]: Facts<C> extends undefined ? [] : [Facts<C>]): Sentence {
  const entry = CATALOGUE[code] as string | ((facts: unknown) => string)
  return { code, text: typeof entry === 'string' ? entry : entry(facts) }
}

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
