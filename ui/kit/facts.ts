import { fieldsOf, SHELVES, type KitField, type KitItem, type Shelf } from '@/core/kit'
import { significant } from '@/core/units'

/** What kind of thing an item is, where its shelf has kinds. */
export function kindText(shelf: Shelf, item: KitItem): string | undefined {
  return SHELVES[shelf].kinds?.find(({ value }) => value === (item as { kind?: string }).kind)?.label
}

/** All facts of an item in a line. */
export function factsText(shelf: Shelf, item: KitItem): string {
  return fieldsOf(shelf, (item as { kind?: string }).kind)
    .map((field) => ({ field, text: factText(field, item) }))
    .filter(({ text }) => text !== undefined)
    .map(({ field: { label, unit }, text }) => `${label.toLowerCase()} ${withUnit(text!, unit)}`.trim())
    .join(' · ')
}

function factText({ key, text, flag }: KitField, item: KitItem): string | undefined {
  const value = (item as unknown as Record<string, unknown>)[key]
  if (value === undefined || value === null) return undefined
  // A yes is said by its label alone.
  if (flag) return value ? '' : undefined
  return text ? String(value) : significant(Number(value), 6)
}

function withUnit(text: string, unit?: string): string {
  if (unit === 'f-number') return `f/${text}`
  return unit ? `${text} ${unit}` : text
}
