import { useCallback, useEffect, useRef, useState } from 'react'
import { useQuery } from '@tanstack/react-query'
import type { Recipe } from '@/core/finish'
import { fetchJson, send } from '../api'
import { changed, received, redone, undone, type History } from './recipeHistory'

/** A change is sent when no other follows for this long, or when the screen is left. */
const SEND_ms = 500

/** The newest save of each render's recipe: a later visit reads the recipe after it. */
const saving = new Map<number, Promise<unknown>>()

/** The recipe of a render, with undo and redo. It is saved as it changes; changes of other tabs are read when this one is looked at again. */
export function useRecipe(renderId: number) {
  const unsaved = useRef<Recipe>(undefined)
  const { data } = useQuery({
    queryKey: ['recipe', renderId],
    queryFn: async () => {
      await saving.get(renderId)
      return fetchJson<Recipe>(`/api/renders/${renderId}/recipe`)
    },
    // Nothing is kept between visits, so that no visit begins with an older recipe.
    gcTime: 0,
    staleTime: 0,
  })
  const [history, setHistory] = useState<History>()
  const [error, setError] = useState('')
  useEffect(() => {
    if (data && !unsaved.current) setHistory((before) => received(before, data))
  }, [data])

  const save = useCallback(
    (keepalive = false) => {
      const recipe = unsaved.current
      if (!recipe) return
      const before = saving.get(renderId) ?? Promise.resolve()
      const sent = before.then(() =>
        send(`/api/renders/${renderId}/recipe`, 'PUT', recipe, keepalive).then(
          () => setError(''),
          (cause: Error) => setError(cause.message),
        ),
      )
      saving.set(renderId, sent)
      void sent.then(() => {
        if (unsaved.current === recipe) unsaved.current = undefined
      })
    },
    [renderId],
  )
  useEffect(() => {
    const leave = () => save(true)
    addEventListener('pagehide', leave)
    return () => {
      removeEventListener('pagehide', leave)
      save()
    }
  }, [save])

  const timer = useRef<ReturnType<typeof setTimeout>>(undefined)
  const set = useCallback(
    (next: History) => {
      unsaved.current = next.now
      setHistory(next)
      clearTimeout(timer.current)
      timer.current = setTimeout(save, SEND_ms)
    },
    [save],
  )
  // Changes that come before the next drawing build on each other.
  const newest = useRef<History>(undefined)
  useEffect(() => {
    newest.current = history
  }, [history])
  const change = useCallback(
    (recipe: Recipe, kind?: string) => {
      if (!newest.current) return
      newest.current = changed(newest.current, recipe, kind)
      set(newest.current)
    },
    [set],
  )
  return {
    recipe: history?.now,
    error,
    change,
    undo: history && history.past.length > 0 ? () => set(undone(history)) : undefined,
    redo: history && history.future.length > 0 ? () => set(redone(history)) : undefined,
  }
}
