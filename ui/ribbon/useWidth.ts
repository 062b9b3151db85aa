import { useEffect, useRef, useState } from 'react'

/** The width in px of the element that the ref is put on; a usual one until it is measured. */
export function useWidth() {
  const frame = useRef<HTMLDivElement>(null)
  const [width, setWidth] = useState(860)
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => setWidth(entry.contentRect.width))
    if (frame.current) observer.observe(frame.current)
    return () => observer.disconnect()
  }, [])
  return [frame, width] as const
}
