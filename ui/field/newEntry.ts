import type { FieldEntry, FieldEvent } from '@/core/field'

/** An entry for what happened now: after everything that is in the log already, even where this device's clock is behind. */
export function entryAfter(log: FieldEntry[], event: FieldEvent): FieldEntry {
  const last = log.at(-1)?.at ?? ''
  const now = new Date().toISOString()
  const at = now > last ? now : new Date(Date.parse(last) + 1).toISOString()
  return { id: newId(), at, ...event }
}

/** A random UUID; `crypto.randomUUID` is not there on a phone that reaches the application by plain HTTP. */
function newId(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16))
  bytes[6] = (bytes[6] & 0x0f) | 0x40
  bytes[8] = (bytes[8] & 0x3f) | 0x80
  const hex = [...bytes].map((byte) => byte.toString(16).padStart(2, '0')).join('')
  return [hex.slice(0, 8), hex.slice(8, 12), hex.slice(12, 16), hex.slice(16, 20), hex.slice(20)].join('-')
}
