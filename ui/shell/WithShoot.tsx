'use client'

import type { ReactNode } from 'react'
import type { ShootDetail } from '@/schemas'
import { useShoot, useShootEvents } from '../api'
import { Shell } from './Shell'

/** Fetches a shoot, keeps it fresh, and shows it once it is there. */
export function WithShoot({ id, children }: { id: number; children: (shoot: ShootDetail) => ReactNode }) {
  const { data, error } = useShoot(id)
  useShootEvents(id)
  if (data) return children(data)
  return <Shell>{error ? <p role="alert">▲ {error.message}</p> : <p role="status">Loading the shoot…</p>}</Shell>
}
