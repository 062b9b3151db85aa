import { useEffect } from 'react'

/** Keeps the screen from going dark while a run goes, where the browser can (it may refuse on a low battery). */
export function useAwake(active: boolean): void {
  useEffect(() => {
    if (!active || !('wakeLock' in navigator)) return
    let lock: WakeLockSentinel | undefined
    let over = false
    const ask = async () => {
      if (document.visibilityState !== 'visible') return
      lock = await navigator.wakeLock.request('screen').catch(() => undefined)
      if (over) await lock?.release()
    }
    void ask()
    // Another tab or the lock screen takes it away.
    document.addEventListener('visibilitychange', ask)
    return () => {
      over = true
      document.removeEventListener('visibilitychange', ask)
      void lock?.release()
    }
  }, [active])
}
