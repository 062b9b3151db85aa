'use client'

import { useState } from 'react'
import type { MendEdit, PaintEdit } from '@/core/mend'
import type { NamedFrame } from '../namedFrames'
import styles from './mend.module.css'

interface Props {
  edits: MendEdit[]
  standing: PaintEdit[]
  frames: NamedFrame[]
  onTakeBack: (id: string) => void
}

/** So many are listed before one asks for all. */
const LISTED = 100

/** Every edit in words, the newest first; each can be taken back and brought again. */
export function EditList({ edits, standing, frames, onTakeBack }: Props) {
  const [all, setAll] = useState(false)
  const painted = edits.filter((edit): edit is PaintEdit => edit.kind !== 'undo')
  if (painted.length === 0) return <p className={styles.none}>Nothing is mended yet. Put the porthole where something is wrong, press and draw.</p>
  const stands = new Set(standing.map(({ id }) => id))
  const newest = painted.toReversed()
  return (
    <>
      <ol className={styles.edits} aria-label="Edits">
        {(all ? newest : newest.slice(0, LISTED)).map((edit) => (
          <li key={edit.id} data-stands={stands.has(edit.id)}>
            <span>{editText(edit, frames)}</span>
            <button type="button" onClick={() => onTakeBack(stands.has(edit.id) ? edit.id : undoOf(edits, edit.id))}>
              {stands.has(edit.id) ? 'Take back' : 'Bring again'}
            </button>
          </li>
        ))}
      </ol>
      {!all && newest.length > LISTED && (
        <button type="button" className={styles.all} onClick={() => setAll(true)}>
          List all {newest.length} edits
        </button>
      )}
    </>
  )
}

/** The undo that keeps an edit from standing. */
function undoOf(edits: MendEdit[], id: string): string {
  return edits.findLast((edit) => edit.kind === 'undo' && edit.of === id)?.id ?? id
}

function editText(edit: PaintEdit, frames: NamedFrame[]): string {
  const wide = `${Math.round(2 * edit.radius_px)} px wide`
  if (edit.kind === 'heal') return `Healed from around, ${wide}`
  if (edit.kind === 'original') return `As it was, ${wide}`
  if (edit.kind === 'render') return `From another render, ${wide}`
  const frame = frames.find(({ file }) => file === edit.frame)
  return `From frame ${frame?.number ?? edit.frame}, ${wide}`
}
