import { useCallback, useEffect, useState } from 'react'
import type { Rectangle } from '@/core/raster'
import { fetchJson } from '../api'

/** What is kept of a walk on this computer: its views and how far one came. */
interface Walk {
  views: Rectangle[]
  at: number
}

/** A walk from front to back over all of a picture; how far one came is remembered. */
export function useWalk(renderId: number) {
  const store = `nitidus-walk-${renderId}`
  const [walk, setWalk] = useState<Walk>()
  const [on, setOn] = useState(false)
  const [error, setError] = useState('')
  useEffect(() => {
    const kept = localStorage.getItem(store)
    setWalk(kept === null ? undefined : (JSON.parse(kept) as Walk))
  }, [store])
  const keep = useCallback(
    (now: Walk) => {
      localStorage.setItem(store, JSON.stringify(now))
      setWalk(now)
    },
    [store],
  )
  /** Begins, or goes on where one left; views are as large as what is seen at 100 %. */
  const begin = useCallback(
    async (view: { width: number; height: number }) => {
      try {
        if (!walk || walk.at >= walk.views.length - 1) {
          const { views } = await fetchJson<{ views: Rectangle[] }>(`/api/renders/${renderId}/walk?width=${view.width}&height=${view.height}`)
          keep({ views, at: 0 })
        }
        setOn(true)
        setError('')
      } catch (cause) {
        setError((cause as Error).message)
      }
    },
    [walk, renderId, keep],
  )
  const go = (by: number) => {
    if (!walk) return
    const at = walk.at + by
    if (at >= walk.views.length) setOn(false)
    keep({ ...walk, at: Math.min(walk.views.length - 1, Math.max(0, at)) })
  }
  return { on, walk, view: on && walk ? walk.views[walk.at] : undefined, error, begin, go, leave: () => setOn(false) }
}
