import { startTransition, useEffect, useRef, useState, type RefObject } from 'react'

const UP = ['pointerup', 'pointercancel', 'keyup']
/** Keys that move a handle. Others only show something else while they are held, which is not to be coarse. */
const MOVING = /^(Arrow|Page|Home|End)/

/** Whether a button of the pointer or a key that moves a handle is held down: then something is dragged. `onRelease` is called when it no longer is. */
export function usePressed(onRelease?: () => void): RefObject<boolean> {
  const pressed = useRef(false)
  const released = useRef(onRelease)
  useEffect(() => {
    released.current = onRelease
  })
  useEffect(() => {
    const heard = new AbortController()
    const listen = { capture: true, signal: heard.signal }
    window.addEventListener('pointerdown', () => (pressed.current = true), listen)
    window.addEventListener('keydown', ({ key }) => (pressed.current ||= MOVING.test(key)), listen)
    const up = () => {
      pressed.current = false
      released.current?.()
    }
    for (const name of UP) window.addEventListener(name, up, listen)
    // Only the window's own: fields that lose the focus tell of that as well, also while a handle is dragged.
    window.addEventListener('blur', up, { signal: heard.signal })
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
