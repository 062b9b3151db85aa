'use client'

import { useState } from 'react'
import { STYLE_NAMES, STYLE_PURPOSES } from '@/core/fuse/purposes'
import { significant } from '@/core/units'
import type { FuseSettings } from '@/schemas'
import { message } from '../../messages'
import { send, useCommand } from '../../api'
import styles from '../result.module.css'
import { Tuner } from './Tuner'
import { triedText, type Tried } from './tried'
import type { Preview } from './usePreview'

interface Props {
  preview?: Preview
  busy: boolean
  error: string
  /** What the render that is looked at was made with. */
  current: string
  /** The view says what part is looked at. */
  ready: boolean
  runId: number
  shootId: number
  settings: FuseSettings
  /** How many frames the render was made of. */
  frameCount: number
  /** `veil`: what does not count as detail is shown dark. */
  onMake: (tried: Tried, veil: boolean) => void
}

/** Fuses the part in view with another style at once, before the whole picture is rendered with it. */
export function PreviewPanel({ preview, busy, error, current, ready, runId, shootId, settings, frameCount, onMake }: Props) {
  const [tuned, setTuned] = useState<Omit<Tried, 'style'>>({})
  const render = useCommand(shootId, () => send(`/api/runs/${runId}/fuse`, 'POST', { ...settings, ...preview!.tried }))
  const [veil, setVeil] = useState(false)
  const style = preview?.tried.style ?? settings.style
  const tune = (change: Omit<Tried, 'style'>) => {
    setTuned(change)
    onMake({ style, ...change }, veil)
  }
  const onVeil = (on: boolean) => {
    setVeil(on)
    onMake({ style, ...tuned }, on)
  }
  return (
    <section aria-label="Try a style">
      <h2>Try a style on this part</h2>
      <div className={styles.styles}>
        {STYLE_NAMES.map((name) => (
          <button
            key={name}
            type="button"
            disabled={busy || !ready}
            aria-pressed={preview?.tried.style === name}
            onClick={() => onMake({ style: name, ...tuned }, veil)}
          >
            {name}
            {name === settings.style && ' (now)'}
            <small>{STYLE_PURPOSES[name]}</small>
          </button>
        ))}
      </div>
      <Tuner tuned={tuned} count={frameCount} disabled={!ready} onTune={tune} veil={veil} onVeil={onVeil} />
      <p role="status">
        {busy && 'Fusing…'}
        {error && `▲ ${error}`}
        {!busy && !error && preview && (
          <>
            {triedText(preview.tried)}: {preview.area.width} × {preview.area.height} px in {significant(preview.seconds, 2)} s.
          </>
        )}
      </p>
      {preview && triedText(preview.tried) !== current && (
        <button
          type="button"
          className={styles.whole}
          disabled={render.isPending}
          onClick={() => render.mutate(undefined, { onError: (cause) => void message.error(cause.message) })}
        >
          Render the whole picture with {triedText(preview.tried)}
        </button>
      )}
    </section>
  )
}
