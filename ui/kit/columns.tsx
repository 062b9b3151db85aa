import type { TableColumnsType } from 'antd'
import { fieldsOf, SHELVES, type KitField, type KitItem, type Shelf } from '@/core/kit'
import { significant } from '@/core/units'

/** The table of a shelf. Facts stand in a line, for they differ from kind to kind. */
export function columnsOf(shelf: Shelf): TableColumnsType<KitItem> {
  const { kinds } = SHELVES[shelf]
  const kindOf = (item: KitItem) => kinds?.find(({ value }) => value === (item as { kind?: string }).kind)?.label
  return [
    { title: 'Name', dataIndex: 'name', key: 'name', width: 250 },
    ...(kinds ? [{ title: 'Kind', key: 'kind', width: 170, render: (_: unknown, item: KitItem) => kindOf(item) }] : []),
    { title: 'Facts', key: 'facts', render: (_, item) => factsText(shelf, item) },
  ]
}

function factsText(shelf: Shelf, item: KitItem): string {
  return fieldsOf(shelf, (item as { kind?: string }).kind)
    .map((field) => ({ field, text: factText(field, item) }))
    .filter(({ text }) => text !== undefined)
    .map(({ field: { label, unit }, text }) => `${label.toLowerCase()} ${withUnit(text!, unit)}`)
    .join(' · ')
}

function factText({ key, text }: KitField, item: KitItem): string | undefined {
  const value = (item as unknown as Record<string, unknown>)[key]
  if (value === undefined || value === null) return undefined
  return text ? String(value) : significant(Number(value), 6)
}

function withUnit(text: string, unit?: string): string {
  if (unit === 'f-number') return `f/${text}`
  return unit ? `${text} ${unit}` : text
}
