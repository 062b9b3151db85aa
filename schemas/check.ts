import type Joi from 'joi'
import { Refusal } from '@/core/words'

/**
 * Sentences for values that do not fit, by Joi's kind of misfit. A schema with a better sentence gives its own. Labels are
 * written as they are read: `f-number`, not `optics.fNumber`.
 */
const SENTENCES: Record<string, string> = {
  'any.required': '{{#label}} is missing. Give it.',
  'any.only': '{{#label}} must be one of: {{#valids}}.',
  'any.unknown': '{{#label}} is not known here. Leave it out.',
  'object.base': '{{#label}} must be an object.',
  'object.unknown': '{{#label}} is not known here. Leave it out.',
  'object.missing': '{{#label}} lacks one of: {{#peers}}. Give one.',
  'object.xor': '{{#label}} holds more than one of: {{#peers}}. Give one.',
  'object.and': '{{#label}} lacks {{#missing}}, which belongs to {{#present}}. Give both.',
  'object.min': 'Nothing is changed. Give something to change.',
  'alternatives.match': '{{#label}} is not written as it should be.',
  'alternatives.types': '{{#label}} is not written as it should be.',
  'array.base': '{{#label}} must be a list.',
  'array.length': '{{#label}} must have {{#limit}} entries.',
  'array.orderedLength': '{{#label}} must have {{#limit}} entries.',
  'array.sparse': '{{#label}} lacks an entry.',
  'array.max': '{{#label}} holds too many entries. The limit is {{#limit}}.',
  'array.min': '{{#label}} holds too few entries. At least {{#limit}} are needed.',
  'array.unique': '{{#label}} holds the same entry twice.',
  'array.includesRequiredUnknowns': '{{#label}} lacks an entry.',
  'boolean.base': '{{#label}} must be true or false.',
  'number.base': '{{#label}} must be a number.',
  'number.integer': '{{#label}} must be a whole number.',
  'number.min': '{{#label}} must be at least {{#limit}}.',
  'number.max': '{{#label}} must be at most {{#limit}}.',
  'number.greater': '{{#label}} must be above {{#limit}}.',
  'number.less': '{{#label}} must be below {{#limit}}.',
  'number.infinity': '{{#label}} must be a finite number.',
  'number.unsafe': '{{#label}} is too large a number.',
  'string.base': '{{#label}} must be text.',
  'string.empty': '{{#label}} is empty. Fill it in.',
  'string.max': '{{#label}} is too long. The limit is {{#limit}} letters.',
  'string.min': '{{#label}} is too short. At least {{#limit}} letters are needed.',
  'string.alphanum': '{{#label}} must be of letters and digits only.',
  'string.hex': '{{#label}} must be a checksum.',
  'string.length': '{{#label}} must have {{#limit}} letters.',
  'string.guid': '{{#label}} must be an id.',
  'string.isoDate': '{{#label}} must be a date and time such as 2026-05-11T09:30:00Z.',
  'string.pattern.base': '{{#label}} is not written as it should be.',
}

/**
 * Checks a value against a schema and returns it with defaults filled in. Codes of refusals are `value.` and Joi's kind.
 * @throws Refusal with the first thing to change.
 */
export function check<T>(schema: Joi.Schema<T>, value: unknown): T {
  const result = schema.validate(value, { abortEarly: true, convert: true, messages: SENTENCES, errors: { wrap: { label: '', array: false } } })
  if (!result.error) return result.value as T
  const [detail] = result.error.details
  throw new Refusal({ code: `value.${detail.type}`, text: detail.message }, detail.path.join('.'))
}
