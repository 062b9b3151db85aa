import { useEffect } from 'react'
import { useAids } from './aids'
import { TouchButton } from './TouchButton'
import styles from './field.module.css'

/** Switches for a voice and for red light. The red light ends with the screen. */
export function AidSwitches() {
  const { aloud, red, change } = useAids()
  useEffect(() => void useAids.persist.rehydrate(), [])
  useEffect(() => {
    document.documentElement.toggleAttribute('data-red-light', red)
    return () => document.documentElement.removeAttribute('data-red-light')
  }, [red])
  return (
    <div className={styles.row}>
      <TouchButton aria-pressed={aloud} onClick={() => change({ aloud: !aloud })}>
        {aloud ? 'Voice is on' : 'Say it aloud'}
      </TouchButton>
      <TouchButton aria-pressed={red} onClick={() => change({ red: !red })}>
        {red ? 'Red light is on' : 'Red light'}
      </TouchButton>
    </div>
  )
}
