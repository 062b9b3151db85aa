'use client'

import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { useState, type KeyboardEvent } from 'react'
import type { LogEntry } from '@/core/logbook'
import { dateText } from '@/core/units'
import type { RunNotes } from '@/schemas'
import { usePlanAgain } from '../api'
import { message } from '../messages'
import { useUnits } from '../units'
import { findingsOf, gearText } from './findings'
import styles from './logbook.module.css'
import { useNotes } from './useLogbook'

const STARS = [0, 1, 2, 3, 4, 5]

/** A run: what it is, what was found, and what one notes of it. */
export function Entry({ entry }: { entry: LogEntry }) {
  const router = useRouter()
  const { system } = useUnits()
  const again = usePlanAgain()
  const keep = useNotes(entry.run)
  const [writing, setWriting] = useState(false)
  const { shoot, number, title, at, render, planned, stars, note, tags } = entry
  const onError = (error: Error) => void message.error(error.message)
  const save = (change: Partial<RunNotes>, done?: () => void) => keep.mutate(change, { onError, onSuccess: done })
  const planAgain = () => again.mutate(shoot, { onError, onSuccess: (copy) => router.push(`/shoots/${copy}/plan`) })
  const onKey = (event: KeyboardEvent) => {
    if (event.key !== 'p' || event.ctrlKey || event.metaKey || event.altKey || (event.target as HTMLElement).closest('input, textarea, select'))
      return
    event.preventDefault()
    if (planned) planAgain()
  }
  return (
    <article className={styles.entry} aria-label={`${title}, run ${number}`} onKeyDown={onKey}>
      <Link
        className={styles.cover}
        href={render === null ? `/shoots/${shoot}/shoot` : `/shoots/${shoot}/result?render=${render}`}
        tabIndex={-1}
        aria-hidden
      >
        {render !== null && <img src={`/api/renders/${render}/thumb`} alt="" loading="lazy" />}
      </Link>
      <div>
        <h2>
          <Link href={render === null ? `/shoots/${shoot}/shoot` : `/shoots/${shoot}/result?render=${render}`}>{title}</Link>{' '}
          <small>run {number}</small>
        </h2>
        <p className={styles.quiet}>
          {dateText(at)}
          {gearText(entry) && ` · ${gearText(entry)}`}
        </p>
        <p className={styles.findings}>{findingsOf(entry, system).join(' ')}</p>
      </div>
      <div className={styles.noted}>
        <select
          className={styles.stars}
          aria-label={`Stars for ${title}, run ${number}`}
          value={stars}
          onChange={(event) => save({ stars: Number(event.target.value) })}
        >
          {STARS.map((count) => (
            <option key={count} value={count}>
              {count === 0 ? 'no stars' : '★'.repeat(count) + '☆'.repeat(5 - count)}
            </option>
          ))}
        </select>
        {writing ? (
          <Notes
            note={note}
            tags={tags}
            busy={keep.isPending}
            onSave={(change) => save(change, () => setWriting(false))}
            onLeave={() => setWriting(false)}
          />
        ) : (
          <>
            {note && <p className={styles.note}>{note}</p>}
            {tags.length > 0 && (
              <p className={styles.tags}>
                {tags.map((tag) => (
                  <span key={tag}>{tag}</span>
                ))}
              </p>
            )}
            <p className={styles.actions}>
              <button type="button" onClick={() => setWriting(true)}>
                {note || tags.length > 0 ? 'Change the note' : 'Add a note'}
              </button>
              {planned && (
                <button type="button" disabled={again.isPending} onClick={planAgain}>
                  Plan it again <kbd>P</kbd>
                </button>
              )}
            </p>
          </>
        )}
      </div>
    </article>
  )
}

interface NotesProps {
  note: string
  tags: string[]
  busy: boolean
  onSave: (change: Pick<RunNotes, 'note' | 'tags'>) => void
  onLeave: () => void
}

function Notes({ note, tags, busy, onSave, onLeave }: NotesProps) {
  const [text, setText] = useState(note)
  const [words, setWords] = useState(tags.join(', '))
  return (
    <form
      className={styles.notes}
      onKeyDown={(event) => event.key === 'Escape' && onLeave()}
      onSubmit={(event) => {
        event.preventDefault()
        onSave({ note: text, tags: [...new Set(words.split(',').map((word) => word.trim()))].filter(Boolean) })
      }}
    >
      <label>
        Note
        <textarea value={text} rows={3} autoFocus onChange={(event) => setText(event.target.value)} />
      </label>
      <label>
        Tags, with commas between
        <input value={words} onChange={(event) => setWords(event.target.value)} />
      </label>
      <p className={styles.actions}>
        <button type="submit" disabled={busy}>
          Save
        </button>
        <button type="button" onClick={onLeave}>
          Leave it
        </button>
      </p>
    </form>
  )
}
