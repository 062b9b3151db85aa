import Joi from 'joi'
import { fieldsOf, SHELVES, type Kit, type KitField, type KitItem, type Shelf } from '@/core/kit'
import { isRefusal, refusal, Refusal, say } from '@/core/words'
import { check } from './check'

export const shelfSchema = Joi.string()
  .valid(...Object.keys(SHELVES))
  .required()
  .messages({ 'any.only': `The kit has these shelves: ${Object.keys(SHELVES).join(', ')}.` })

/**
 * An item for a shelf, checked: it has the facts of its kind, within their bounds, and no others.
 * @throws Refusal at the fact to mend.
 */
export function checkKitItem(shelf: Shelf, value: unknown): KitItem {
  const { kinds, one, usualKind } = SHELVES[shelf]
  const kind = (value as { kind?: string } | null)?.kind ?? usualKind
  const item = check<KitItem>(
    Joi.object({
      // Numbers belong to a database, not to an item.
      id: Joi.any().strip(),
      name: text(`what the ${one} is called`).max(80),
      ...(kinds && {
        kind: (usualKind
          ? Joi.valid(...kinds.map((known) => known.value)).default(usualKind)
          : Joi.valid(...kinds.map((known) => known.value)).required()
        ).messages({ 'any.only': `Choose what kind of ${one} it is.`, 'any.required': `Choose what kind of ${one} it is.` }),
      }),
      ...Object.fromEntries(fieldsOf(shelf, kind).map((field) => [field.key, factSchema(field)])),
    })
      .required()
      .messages({ 'object.unknown': `A ${one} has no {{#label}}. Take it out.`, 'object.base': `A ${one} needs a name and its facts.` }),
    value,
  )
  if ('widestFNumber' in item && item.widestFNumber > item.smallestFNumber) throw refusal('kit.apertureOrder', undefined, 'widestFNumber')
  if ('scaleMarks' in item && item.scaleMarks !== undefined && !SCALE.test(item.scaleMarks)) throw refusal('kit.scaleMarks', undefined, 'scaleMarks')
  if ('shortest_mm' in item && item.shortest_mm! > item.longest_mm!) throw refusal('kit.extensionOrder', undefined, 'shortest_mm')
  return item
}

/**
 * A whole kit as it is exported, shelf by shelf; a missing shelf is empty.
 * @throws Refusal naming shelf and item.
 */
export function checkKit(value: unknown): Kit {
  const outer = check<Record<string, unknown[]>>(
    Joi.object(Object.fromEntries(Object.keys(SHELVES).map((shelf) => [shelf, Joi.array().max(500).default([])])))
      .required()
      .messages({
        'object.base': 'This file holds no kit. Choose one that was exported here.',
        'object.unknown': 'A kit has nothing called {{#label}}. Take it out of the file, or choose a kit that was exported here.',
      }),
    value,
  )
  const shelves = Object.entries(outer).map(([shelf, items]) => [
    shelf,
    items.map((item, k) => {
      try {
        return checkKitItem(shelf as Shelf, item)
      } catch (error) {
        if (!isRefusal(error)) throw error
        const { text } = say('kit.item', { shelf: SHELVES[shelf as Shelf].title, place: k + 1, reason: error.message })
        throw new Refusal({ code: error.code, text }, `${shelf}.${k}`)
      }
    }),
  ])
  return Object.fromEntries(shelves) as Kit
}

/** Distances in metres, apart by spaces, the last one perhaps infinity. */
const SCALE = /^\d+([.,]\d+)?(\s+\d+([.,]\d+)?)*(\s+∞)?$/

function factSchema({ label, unit, least, most, whole, optional, text: isText, flag }: KitField): Joi.Schema {
  if (flag) return Joi.boolean()
  if (isText) return optional ? text(label.toLowerCase()).max(80).optional() : text(label.toLowerCase()).max(80)
  const bounds = `${label}: give a ${whole ? 'whole ' : ''}number from ${least} to ${most}${unit ? ` ${unit}` : ''}.`
  const number = (whole ? Joi.number().integer() : Joi.number())
    .min(least!)
    .max(most!)
    .messages(Object.fromEntries(MISFITS.map((kind) => [kind, bounds])))
  return optional ? number : number.required()
}

/** However a number does not fit, its bounds are what there is to say. */
const MISFITS = ['any.required', 'number.base', 'number.integer', 'number.min', 'number.max', 'number.unsafe', 'number.infinity']

function text(what: string) {
  return Joi.string()
    .trim()
    .min(1)
    .required()
    .messages({
      'string.empty': `Say ${what}.`,
      'any.required': `Say ${what}.`,
      'string.base': `Say ${what}.`,
      'string.max': `Say ${what} in at most {{#limit}} letters.`,
    })
}
