import Joi from 'joi'

/** A number above zero; `what` names it in the sentence a user reads. */
export function positive(what: string) {
  const sentence = `Give ${what}: a number above 0.`
  return Joi.number()
    .greater(0)
    .messages({
      'number.greater': sentence,
      'number.base': sentence,
      'number.infinity': `Give ${what}: a finite number above 0.`,
      'number.max': `Give ${what}: at most {{#limit}}.`,
    })
}

/** A length in mm that a subject or a print can have: above zero, up to 1000 km. */
export function length(what: string) {
  return positive(what).max(1e9)
}
