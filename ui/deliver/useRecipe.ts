import { useCallback, useEffect, useRef, useState } from 'react'
import { useQuery } from '@tanstack/react-query'
import type { Recipe } from '@/core/finish'
import { fetchJson, send } from '../api'

interface History {
  past: Recipe[]
  now: Recipe
  future: Recipe[]
  /** Changes of one kind that follow each other, such as a handle that is dragged, are one step back. */
  kind?: string
}

/** The history after a change. */
export function changed(history: History, now: Recipe, kind?: string): History {
  const together = kind !== undefined && kind === history.kind
  return { past: together ? history.past : [...history.past, history.now], now, future: [], kind }
}

export function undone({ past, now, future }: History): History {
  return past.length === 0 ? { past, now, future } : { past: past.slice(0, -1), now: past.at(-1)!, future: [now, ...future] }
}

export function redone({ past, now, future }: History): History {
  return future.length === 0 ? { past, now, future } : { past: [...past, now], now: future[0], future: future.slice(1) }
}

/** A change is sent when nothing more comes for so long. */
const SEND_ms = 500

/** What a render is being finished by, with undo and redo; it is kept as it changes. */
export function useRecipe(renderId: number) {
  const { data } = useQuery({
    queryKey: ['recipe', renderId],
    queryFn: () => fetchJson<Recipe>(`/api/renders/${renderId}/recipe`),
    staleTime: Infinity,
  })
  const [history, setHistory] = useState<History>()
  const [error, setError] = useState('')
  useEffect(() => {
    if (data) setHistory((before) => before ?? { past: [], now: data, future: [] })
  }, [data])
  const kept = useRef<Recipe>(undefined)
  const now = history?.now
  useEffect(() => {
    if (!now || !data) return
    kept.current ??= data
    if (kept.current === now) return
    const timer = setTimeout(() => {
      kept.current = now
      send(`/api/renders/${renderId}/recipe`, 'PUT', now).then(
        () => setError(''),
        (cause: Error) => setError(cause.message),
      )
    }, SEND_ms)
    return () => clearTimeout(timer)
  }, [now, data, renderId])
  const change = useCallback((recipe: Recipe, kind?: string) => setHistory((before) => before && changed(before, recipe, kind)), [])
  return {
    recipe: now,
    error,
    change,
    undo: history && history.past.length > 0 ? () => setHistory(undone(history)) : undefined,
    redo: history && history.future.length > 0 ? () => setHistory(redone(history)) : undefined,
  }
}
