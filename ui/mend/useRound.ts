import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useCallback, useEffect, useMemo, useState } from 'react'
import type { Place } from '@/core/inspect'
import { fetchJson, runJob } from '../api'

/** Gone through: places are known by where they lie and what they are, and those left alone are remembered on this computer. */
const keyOf = ({ kind, x, y }: Place) => `${kind} ${x} ${y}`

/** The round through the places of a render that are worth a look; it is asked for, and kept with the render. */
export function useRound(renderId: number) {
  const client = useQueryClient()
  const key = useMemo(() => ['places', renderId], [renderId])
  const { data } = useQuery({ queryKey: key, queryFn: () => fetchJson<{ places: Place[] | null }>(`/api/renders/${renderId}/places`) })
  const [looking, setLooking] = useState(false)
  const [error, setError] = useState('')
  const [at, setAt] = useState<number>()
  const store = `nitidus-seen-${renderId}`
  const [seen, setSeen] = useState<string[]>([])
  useEffect(() => setSeen(JSON.parse(localStorage.getItem(store) ?? '[]') as string[]), [store])

  const look = useCallback(async () => {
    setLooking(true)
    setError('')
    try {
      const found = await runJob<'inspect'>(`/api/renders/${renderId}/places`)
      client.setQueryData(key, found)
      setAt(found && found.places.length > 0 ? 0 : undefined)
    } catch (cause) {
      setError((cause as Error).message)
    } finally {
      setLooking(false)
    }
  }, [client, key, renderId])

  const places = data?.places ?? undefined
  const place = at === undefined ? undefined : places?.[at]
  const go = useCallback(
    (by: number) => {
      if (!places || places.length === 0) return
      if (place) {
        const known = [...new Set([...seen, keyOf(place)])]
        setSeen(known)
        localStorage.setItem(store, JSON.stringify(known))
      }
      setAt((before) => (before === undefined ? (by > 0 ? 0 : places.length - 1) : (before + by + places.length) % places.length))
    },
    [places, place, seen, store],
  )
  const isSeen = useCallback((each: Place) => seen.includes(keyOf(each)), [seen])
  return { places, place, at, looking, error, look, go, isSeen, leave: () => setAt(undefined) }
}
