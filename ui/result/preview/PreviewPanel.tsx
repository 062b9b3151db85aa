'use client'

import { STYLE_NAMES, STYLE_PURPOSES, type StyleName } from '@/core/fuse/purposes'
import { significant } from '@/core/units'
import type { FuseSettings } from '@/schemas'
import { message } from '../../messages'
import { send, useCommand } from '../../api'
import styles from '../result.module.css'
import type { Preview } from './usePreview'

interface Props {
  preview?: Preview
  busy: boolean
  error: string
  /** Style of the render that is looked at. */
  current: string
  /** The view says what part is looked at. */
  ready: boolean
  runId: number
  shootId: number
  settings: FuseSettings
  onMake: (style: StyleName) => void
}

/** Fuses the part in view with another style at once, before the whole picture is rendered with it. */
export function PreviewPanel({ preview, busy, error, current, ready, runId, shootId, settings, onMake }: Props) {
  const render = useCommand(shootId, () => send(`/api/runs/${runId}/fuse`, 'POST', { ...settings, style: preview!.style }))
  return (
    <section aria-label="Try a style">
      <h2>Try a style on this part</h2>
      <div className={styles.styles}>
        {STYLE_NAMES.map((name) => (
          <button
            key={name}
            type="button"
            title={STYLE_PURPOSES[name]}
            disabled={busy || !ready}
            aria-pressed={preview?.style === name}
            onClick={() => onMake(name)}
          >
            {name}
            {name === current && ' (now)'}
          </button>
        ))}
      </div>
      <p role="status">
        {busy && 'Fusing…'}
        {error && `▲ ${error}`}
        {!busy && !error && preview && (
          <>
            {preview.style}: {preview.area.width} × {preview.area.height} px in {significant(preview.seconds, 2)} s.
          </>
        )}
      </p>
      {preview && preview.style !== current && (
        <button
          type="button"
          className={styles.whole}
          disabled={render.isPending}
          onClick={() => render.mutate(undefined, { onError: (cause) => void message.error(cause.message) })}
        >
          Render the whole picture with {preview.style}
        </button>
      )}
    </section>
  )
}
