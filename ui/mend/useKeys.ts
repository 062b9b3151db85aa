import { useEffect } from 'react'
import { sized, softened, type Hole } from './hole'
import type { Through } from './through'

export interface Keys {
  step: (by: number) => void
  setThrough: (through: Through) => void
  setHole: (change: (hole: Hole) => Hole) => void
  setUntouched: (untouched: boolean) => void
  setMoving: (moving: boolean) => void
  setBlinking: (blinking: boolean) => void
  next: (by: number) => void
  accept?: () => void
  sheet: () => void
  undo?: () => void
  redo?: () => void
}

/** What each key does, for the sheet of keys. */
export const KEY_WORDS: [keys: string, does: string][] = [
  ['← →', 'show the frame before or after through the porthole'],
  ['S', 'show the sharpest frame here'],
  ['H', 'heal from around'],
  ['W', 'bring back what was'],
  ['↑ ↓, wheel', 'larger or smaller porthole'],
  ['Shift with ↑ ↓ or wheel', 'softer or harder rim'],
  ['Shift, held', 'keep the porthole where it is and drag its rim for size, its inner rim for softness'],
  ['Ctrl and wheel, + −', 'zoom'],
  ['Space, held', 'move the picture'],
  ['U, held', 'see the untouched picture'],
  ['N, Shift N', 'next or last place of the round'],
  ['B, held', 'see the place mended'],
  ['Enter', 'mend the place so'],
  ['Ctrl Z, Ctrl Shift Z', 'undo, redo'],
  ['?', 'this sheet'],
]

/** Keys of the screen; before the zoom view gets them, which would pan on the arrows. */
export function useKeys(keys: Keys): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement
      if (target.closest('input, textarea, select, [role="slider"], [role="dialog"]')) return
      if (act(event, keys)) {
        event.preventDefault()
        event.stopPropagation()
      }
    }
    window.addEventListener('keydown', onKey, true)
    window.addEventListener('keyup', onKey, true)
    return () => {
      window.removeEventListener('keydown', onKey, true)
      window.removeEventListener('keyup', onKey, true)
    }
  }, [keys])
}

/** Does what a key stands for; false where it stands for nothing. */
function act(event: KeyboardEvent, keys: Keys): boolean {
  const down = event.type === 'keydown'
  const key = event.key.toLowerCase()
  const onButton = (event.target as HTMLElement).closest('button, a') !== null
  const held = heldAction(key, keys)
  if (held && !event.ctrlKey && !event.metaKey && !(key === ' ' && onButton)) {
    if (!event.repeat) held(down)
    return true
  }
  if (!down) return false
  if ((event.ctrlKey || event.metaKey) && key === 'z') {
    ;(event.shiftKey ? keys.redo : keys.undo)?.()
    return true
  }
  if (event.ctrlKey || event.metaKey || event.altKey || (key === 'enter' && onButton)) return false
  return pressed(key, event.shiftKey, keys)
}

function heldAction(key: string, { setUntouched, setMoving, setBlinking }: Keys): ((down: boolean) => void) | undefined {
  return { u: setUntouched, ' ': setMoving, b: setBlinking }[key]
}

function pressed(key: string, shift: boolean, keys: Keys): boolean {
  const size = (by: number) => keys.setHole((hole) => sized(hole, hole.radius_px * by))
  const soft = (by: number) => keys.setHole((hole) => softened(hole, hole.softness + by))
  const actions: Record<string, () => void> = {
    arrowright: () => keys.step(1),
    arrowleft: () => keys.step(-1),
    arrowup: () => (shift ? soft(0.1) : size(1.12)),
    arrowdown: () => (shift ? soft(-0.1) : size(1 / 1.12)),
    h: () => keys.setThrough({ kind: 'heal' }),
    w: () => keys.setThrough({ kind: 'original' }),
    s: () => keys.setThrough({ kind: 'sharpest' }),
    n: () => keys.next(shift ? -1 : 1),
    enter: () => keys.accept?.(),
    '?': keys.sheet,
  }
  const action = actions[key]
  action?.()
  return action !== undefined
}
