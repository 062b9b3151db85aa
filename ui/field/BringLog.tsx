'use client'

import { useQueryClient } from '@tanstack/react-query'
import { useRef, useState, type ChangeEvent } from 'react'
import type { CarriedLog } from '@/core/field'
import { refusal } from '@/core/words'
import { send } from '../api'
import { useUnits } from '../units'
import { TouchButton } from './TouchButton'
import styles from './field.module.css'

/** The application takes so many entries at a time. */
const AT_ONCE = 2000

/** Takes the card along as one file, and brings the log home that was kept on it. */
export function BringLog({ shootId }: { shootId: number }) {
  const client = useQueryClient()
  const { system } = useUnits()
  const input = useRef<HTMLInputElement>(null)
  const [said, setSaid] = useState<{ text: string; wrong?: boolean }>()
  const bring = async ({ target }: ChangeEvent<HTMLInputElement>) => {
    const files = [...(target.files ?? [])]
    target.value = ''
    if (files.length === 0) return
    setSaid({ text: 'Reading the log…' })
    try {
      const { carriedIn } = await import('./carriedIn')
      const log = await carriedIn(files)
      await handed(shootId, log)
      setSaid({ text: log.entries.length === 1 ? 'One entry is here now.' : `${log.entries.length} entries are here now.` })
      await client.invalidateQueries({ queryKey: ['shoot', shootId] })
    } catch (cause) {
      setSaid({ text: (cause as Error).message, wrong: true })
    }
  }
  return (
    <section className={styles.carry} aria-label="Without the application">
      <p className={styles.quiet}>No connection where you shoot? Take this card along as one file, open it on the phone, and bring its log home.</p>
      <div className={styles.row}>
        <a className={styles.link} href={`/api/shoots/${shootId}/card?as=file&units=${system}`}>
          Take along as one file
        </a>
        <TouchButton onClick={() => input.current?.click()}>Bring its log home</TouchButton>
        <input
          ref={input}
          type="file"
          multiple
          hidden
          accept=".json,application/json,image/*"
          aria-label="The log’s file, or pictures of its codes"
          onChange={(event) => void bring(event)}
        />
      </div>
      {said && <p role={said.wrong ? 'alert' : 'status'}>{said.wrong ? `▲ ${said.text}` : said.text}</p>}
    </section>
  )
}

/** Hands a log over in parts. @throws the application's refusal, such as where it is of another shoot. */
async function handed(shootId: number, { shoot, title, entries }: CarriedLog): Promise<void> {
  if (entries.length === 0) throw refusal('carried.unreadable')
  for (let from = 0; from < entries.length; from += AT_ONCE)
    await send(`/api/shoots/${shootId}/field`, 'POST', { entries: entries.slice(from, from + AT_ONCE), shoot: { uid: shoot, title } })
}
