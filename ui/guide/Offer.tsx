'use client'

import { useRouter } from 'next/navigation'
import { useState } from 'react'
import type { Kit } from '@/core/kit'
import { fetchJson, send } from '../api'
import { beginFirstSeries, endFirstSeries, useFirstSeries } from './firstSeries'
import styles from './guide.module.css'

/** On a first visit: a whole series on the simulated camera, with the words explained as they come up. */
export function Offer() {
  const kept = useFirstSeries()
  const router = useRouter()
  const [busy, setBusy] = useState(false)
  const [error, setError] = useState('')
  if (kept !== null) return null
  const begin = async () => {
    setBusy(true)
    try {
      const [{ firstShoot }, kit] = await Promise.all([import('./firstPlan'), fetchJson<Kit>('/api/kit')])
      const { id } = await send<{ id: number }>('/api/shoots', 'POST', firstShoot(kit))
      beginFirstSeries(id)
      router.push(`/shoots/${id}/plan`)
    } catch (cause) {
      setError((cause as Error).message)
      setBusy(false)
    }
  }
  return (
    <section className={styles.guide} aria-label="First visit">
      <p>New here? A simulated camera stands ready, and nothing can go wrong.</p>
      <div className={styles.buttons}>
        <button type="button" className={styles.main} disabled={busy} onClick={() => void begin()}>
          Shoot your first series in five minutes
        </button>
        <button type="button" onClick={endFirstSeries}>
          Not now
        </button>
      </div>
      {error && <p role="alert">▲ {error}</p>}
    </section>
  )
}
