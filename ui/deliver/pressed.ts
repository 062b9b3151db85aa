import { startTransition, useEffect, useRef, useState, type RefObject } from 'react'

const DOWN = ['pointerdown', 'keydown']
const UP = ['pointerup', 'pointercancel', 'keyup', 'blur']

/** Whether a button of the pointer or a key is held down: then something is dragged. `onRelease` is called when it no longer is. */
export function usePressed(onRelease?: () => void): RefObject<boolean> {
  const pressed = useRef(false)
  const released = useRef(onRelease)
  useEffect(() => {
    released.current = onRelease
  })
  useEffect(() => {
    const heard = new AbortController()
    const listen = { capture: true, signal: heard.signal }
    for (const name of DOWN) window.addEventListener(name, () => (pressed.current = true), listen)
    const up = () => {
      pressed.current = false
      released.current?.()
    }
    for (const name of UP) window.addEventListener(name, up, listen)
    return () => heard.abort()
  }, [])
  return pressed
}

/** A value that stays as it was while something is dragged, for what need not follow each move. */
export function useReleased<T>(value: T): T {
  const [held, setHeld] = useState(value)
  const latest = useRef(value)
  const pressed = usePressed(() => startTransition(() => setHeld(latest.current)))
  useEffect(() => {
    latest.current = value
    if (!pressed.current) startTransition(() => setHeld(value))
  }, [value, pressed])
  return held
}
