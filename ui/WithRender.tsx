import type { ReactNode } from 'react'
import type { RenderDetail } from '@/schemas'
import { useRender } from './api'

/** Shows what needs the whole report of a render, once that has come. */
export function WithRender({ id, children }: { id: number; children: (render: RenderDetail) => ReactNode }) {
  const { data, error } = useRender(id)
  if (data) return children(data)
  return error ? <p role="alert">▲ {error.message}</p> : <p role="status">Opening the picture…</p>
}
