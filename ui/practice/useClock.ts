import { useEffect, useRef, useState } from 'react'

/** A clock that begins with the first move; `stop` answers the seconds since then. */
export function useClock() {
  const began = useRef<number>(undefined)
  const [going, setGoing] = useState(false)
  const [seconds, setSeconds] = useState(0)
  useEffect(() => {
    if (!going) return
    const timer = setInterval(() => setSeconds((performance.now() - began.current!) / 1000), 250)
    return () => clearInterval(timer)
  }, [going])
  return {
    seconds,
    start() {
      if (began.current !== undefined) return
      began.current = performance.now()
      setGoing(true)
    },
    stop(): number {
      setGoing(false)
      const all = began.current === undefined ? 0 : (performance.now() - began.current) / 1000
      setSeconds(all)
      return all
    },
  }
}
