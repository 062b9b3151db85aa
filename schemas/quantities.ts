import Joi from 'joi'

/** A number above zero; `what` names it in the sentence a user reads. */
export function positive(what: string) {
  const sentence = `Give ${what}: a number above 0.`
  return Joi.number()
    .greater(0)
    .messages({
      'number.greater': `{{#label}} must be above 0. ${sentence}`,
      'number.base': `{{#label}} must be a number. ${sentence}`,
      'number.infinity': `{{#label}} must be a finite number. ${sentence}`,
      'number.max': `{{#label}} is beyond what can be planned: give ${what}, at most {{#limit}}.`,
    })
}

/** A length in mm that a subject or a print can have: above zero, up to 1000 km. */
export function length(what: string) {
  return positive(what).max(1e9)
}
