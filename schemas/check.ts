import type Joi from 'joi'

/** Input that does not fit; `message` is one sentence for the user, `field` the path of the value. */
export class InputError extends Error {
  constructor(
    message: string,
    readonly field = '',
  ) {
    super(message)
    this.name = 'InputError'
  }
}

/**
 * Whether an error is a user's to mend. Told by name, because the web server bundles this module more than once and
 * `instanceof` then holds for one of the copies only.
 */
export function isForUser(error: unknown): error is InputError {
  return error instanceof Error && (error.name === 'InputError' || error.name === 'PlanError')
}

/**
 * Checks a value against a schema and returns it with defaults filled in.
 * @throws InputError with the first thing to mend.
 */
export function check<T>(schema: Joi.Schema<T>, value: unknown): T {
  const result = schema.validate(value, { abortEarly: true, convert: true, errors: { wrap: { label: '' } } })
  if (!result.error) return result.value as T
  const [detail] = result.error.details
  throw new InputError(detail.message, detail.path.join('.'))
}
