'use client'

import { Select } from 'antd'
import type { RenderInShort } from '@/schemas'
import { settingsText } from '../renderText'
import type { useMend } from './useMend'
import type { Through } from './through'
import styles from './mend.module.css'

interface Props {
  through?: Through
  /** What shows through, in words. */
  label: string
  onThrough: (through: Through) => void
  evenTone: boolean
  onEvenTone: (even: boolean) => void
  /** Renders that can be painted from. */
  others: RenderInShort[]
  mend: ReturnType<typeof useMend>
  rendering: boolean
  onRender: () => void
  onCompose: () => void
  /** Whether the lines of a composed picture are dragged; absent where it has none. */
  dragging?: boolean
  onDragging: (dragging: boolean) => void
}

/** What shows through the porthole, and what becomes of the mend. */
export function Choices({
  through,
  label,
  onThrough,
  evenTone,
  onEvenTone,
  others,
  mend,
  rendering,
  onRender,
  onCompose,
  dragging,
  onDragging,
}: Props) {
  const composed = mend.mend !== undefined && mend.mend.base !== 'fused'
  const button = (kind: 'sharpest' | 'heal' | 'original', text: string, key: string) => (
    <button type="button" aria-pressed={through?.kind === kind} onClick={() => onThrough({ kind })}>
      {text} <kbd>{key}</kbd>
    </button>
  )
  return (
    <>
      <div className={styles.choices} role="group" aria-label="What shows through the porthole">
        {button('sharpest', 'Sharpest here', 'S')}
        {button('heal', 'Healed from around', 'H')}
        {button('original', 'As it was', 'W')}
        {others.length > 0 && (
          <Select
            aria-label="Another render"
            placeholder="Another render"
            size="small"
            value={through?.kind === 'render' ? through.id : undefined}
            onChange={(id: number) => onThrough({ kind: 'render', id })}
            options={others.map((other) => ({ value: other.id, label: settingsText(other) }))}
            popupMatchSelectWidth={false}
          />
        )}
        <button type="button" aria-pressed={evenTone} onClick={() => onEvenTone(!evenTone)}>
          Even its tone
        </button>
        <span className={styles.label} data-testid="through">
          {label}
        </span>
      </div>
      <div className={styles.choices} role="group" aria-label="This mend">
        {mend.mends.length > 1 && (
          <Select
            aria-label="Mends of this render"
            size="small"
            value={mend.mend?.id}
            onChange={mend.choose}
            options={mend.mends.map(({ id, title }) => ({ value: id, label: title }))}
            popupMatchSelectWidth={false}
          />
        )}
        <button type="button" onClick={() => void mend.begin('fused')} disabled={!mend.mend}>
          Begin another mend
        </button>
        <button type="button" onClick={onCompose}>
          Compose by hand
        </button>
        {dragging !== undefined && (
          <button type="button" aria-pressed={dragging} onClick={() => onDragging(!dragging)}>
            Drag the lines
          </button>
        )}
        <button type="button" disabled={!mend.undo} onClick={mend.undo}>
          Undo
        </button>
        <button type="button" disabled={!mend.redo} onClick={mend.redo}>
          Redo
        </button>
        <button type="button" className={styles.main} disabled={(mend.standing.length === 0 && !composed) || rendering} onClick={onRender}>
          {rendering ? 'Rendering…' : 'Render the mended picture'}
        </button>
      </div>
    </>
  )
}
