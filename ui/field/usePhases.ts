import { useEffect, useState } from 'react'
import type { Phase } from '@/core/field'

/**
 * Goes through the phases of one frame: those of the hand wait for `next`, those that are counted go on by themselves;
 * `onEnd` follows the last. `again` goes back to a phase by its place. `key` begins anew.
 */
export function usePhases(phases: Phase[], key: string, onEnd: () => void) {
  const [state, setState] = useState({ key, index: 0, until: 0 })
  const [now, setNow] = useState(0)
  const current = state.key === key ? state : { key, index: 0, until: 0 }
  const phase = phases[current.index]
  const enter = (index: number) => {
    if (index >= phases.length) {
      setState({ key: `${key} over`, index: 0, until: 0 })
      return onEnd()
    }
    const { seconds } = phases[index]
    setNow(Date.now())
    setState({ key, index, until: seconds === undefined ? 0 : Date.now() + seconds * 1000 })
  }
  const counting = phase?.seconds !== undefined && current.until > 0
  useEffect(() => {
    if (!counting) return
    const tick = setInterval(() => setNow(Date.now()), 100)
    return () => clearInterval(tick)
  }, [counting])
  const left_s = counting ? Math.max(0, (current.until - now) / 1000) : 0
  useEffect(() => {
    if (!counting) return
    const over = setTimeout(() => enter(current.index + 1), Math.max(0, current.until - Date.now()))
    return () => clearTimeout(over)
    // A phase that is counted ends once, at its time.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [counting, current.until])
  return { phase, left_s, next: () => enter(current.index + 1), again: enter, restart: () => setState({ key, index: 0, until: 0 }) }
}
