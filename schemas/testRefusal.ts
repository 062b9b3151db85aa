import { isRefusal, type Refusal } from '@/core/words'

/** What a value is refused with: the code, the field, and a sentence that can be read. */
export function refusedAt(work: () => unknown): [field: string, code: string] {
  const { field, code, message } = refusalOf(work)
  if (message.includes('\n') || !/[.?]$/.test(message)) throw new Error(`No sentence: ${message}`)
  return [field, code]
}

/** The refusal of a value. */
export function refusalOf(work: () => unknown): Refusal {
  try {
    work()
  } catch (error) {
    if (isRefusal(error)) return error
    throw error
  }
  throw new Error('Nothing was refused.')
}
