import type { ShootState, ShootSummary } from '@/schemas'

export const STATES: Record<ShootState, { mark: string; label: string }> = {
  planned: { mark: '○', label: 'planned' },
  shot: { mark: '◐', label: 'shot' },
  fused: { mark: '●', label: 'fused' },
}

const STATE_ORDER = Object.keys(STATES)

/** How the list is sorted. */
export const ORDERS = {
  changed: { label: 'last changed first', compare: (a, b) => later(a.changed_at, b.changed_at) },
  created: { label: 'newest first', compare: (a, b) => later(a.created_at, b.created_at) },
  oldest: { label: 'oldest first', compare: (a, b) => later(b.created_at, a.created_at) },
  state: { label: 'by state', compare: (a, b) => STATE_ORDER.indexOf(a.state) - STATE_ORDER.indexOf(b.state) },
  title: { label: 'by title', compare: (a, b) => new Intl.Collator('en', { numeric: true }).compare(a.title, b.title) },
} as const satisfies Record<string, { label: string; compare: (a: ShootSummary, b: ShootSummary) => number }>

export type Order = keyof typeof ORDERS

const later = (a: string, b: string) => (a === b ? 0 : a > b ? -1 : 1)

/** Shoots that hold every word in title or notes, of one state or of all, sorted. */
export function found(shoots: ShootSummary[], { words, state, order }: { words: string; state: string; order: Order }): ShootSummary[] {
  const wanted = plain(words).split(/\s+/).filter(Boolean)
  return shoots
    .filter((shoot) => state === '' || shoot.state === state)
    .filter(({ title, subject }) => wanted.every((word) => plain(`${title} ${subject}`).includes(word)))
    .sort((a, b) => ORDERS[order].compare(a, b) || b.id - a.id)
}

/** Without case and accents, so that what is typed in a hurry finds it. */
const plain = (text: string) => text.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase()
