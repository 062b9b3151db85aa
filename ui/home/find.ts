import type { ShootOrder, ShootState } from '@/schemas'

export const STATES: Record<ShootState, { mark: string; label: string }> = {
  planned: { mark: '○', label: 'planned' },
  shot: { mark: '◐', label: 'shot' },
  fused: { mark: '●', label: 'fused' },
}

/** How the list is sorted. */
export const ORDERS: Record<ShootOrder, string> = {
  changed: 'last changed first',
  created: 'newest first',
  oldest: 'oldest first',
  state: 'by state',
  title: 'by title',
}
