import { plainText } from '@/database'
import type { ShootOrder, ShootQuery, ShootState } from '@/schemas'
import type { Outline } from './summary'

const STATE_ORDER: ShootState[] = ['planned', 'shot', 'fused']

/** How a list is sorted. */
const COMPARE: Record<ShootOrder, (a: Outline, b: Outline) => number> = {
  changed: (a, b) => later(a.changed_at, b.changed_at),
  created: (a, b) => later(a.created_at, b.created_at),
  oldest: (a, b) => later(b.created_at, a.created_at),
  state: (a, b) => STATE_ORDER.indexOf(a.state) - STATE_ORDER.indexOf(b.state),
  title: (a, b) => collator.compare(a.title, b.title),
}

const collator = new Intl.Collator('en', { numeric: true })
const later = (a: string, b: string) => (a === b ? 0 : a > b ? -1 : 1)

/** Shoots that hold every word in title or notes, of one state or of all, sorted. */
export function found(shoots: Outline[], { words, state, order }: Pick<ShootQuery, 'words' | 'state' | 'order'>): Outline[] {
  const wanted = plainText(words).split(/\s+/).filter(Boolean)
  return shoots
    .filter((shoot) => state === '' || shoot.state === state)
    .filter(({ title, subject }) => wanted.every((word) => plainText(`${title} ${subject}`).includes(word)))
    .sort((a, b) => COMPARE[order](a, b) || b.id - a.id)
}
