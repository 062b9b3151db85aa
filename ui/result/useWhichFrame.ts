import { useCallback, useState } from 'react'
import { fetchJson } from '../api'

/** Which frame of a render shows a place of its picture: asked of the application by the place in px. */
export function useWhichFrame(renderId: number) {
  const [found, setFound] = useState<{ index: number } | { error: string }>()
  const ask = useCallback(
    (x: number, y: number) => {
      fetchJson<{ index: number }>(`/api/renders/${renderId}/at?x=${Math.floor(x)}&y=${Math.floor(y)}`).then(setFound, (error: Error) =>
        setFound({ error: error.message }),
      )
    },
    [renderId],
  )
  return { found, ask }
}
