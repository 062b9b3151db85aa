'use client'

import Link from 'next/link'
import type { RenderInShort } from '@/schemas'
import { DeleteButton } from '../DeleteButton'
import { settingsText } from '../renderText'
import styles from './result.module.css'

interface Props {
  shootId: number
  renders: RenderInShort[]
  current: number
  /** The render that is laid beside this one, and how that is chosen. */
  beside?: number
  onBeside: (id: number | undefined) => void
}

/** Renders of the shoot with the settings that made them: to go to, or to lay beside the present one. */
export function Renders({ shootId, renders, current, beside, onBeside }: Props) {
  return (
    <section aria-label="Renders">
      <h2>Renders of this shoot</h2>
      <ul className={styles.renders}>
        {renders.map((render) => (
          <li key={render.id}>
            <Link href={`/shoots/${shootId}/result?render=${render.id}`} aria-current={render.id === current}>
              {settingsText(render)}
            </Link>
            {render.id !== current && (
              <button type="button" aria-pressed={render.id === beside} onClick={() => onBeside(render.id === beside ? undefined : render.id)}>
                compare
              </button>
            )}
            <DeleteButton kind="render" id={render.id} what={`the render ${settingsText(render)}`} />
          </li>
        ))}
      </ul>
    </section>
  )
}
