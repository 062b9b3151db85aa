import { useRouter } from 'next/navigation'
import { useState } from 'react'
import type { SeriesRequest } from '@/core/simulate'
import { fetchJson, runJob, send } from '../api'
import type { Darkroom } from './darkroom'

interface Props {
  darkroom: Darkroom
  request: SeriesRequest
  /** The frame that was forgotten. */
  missing: number
}

/** Takes the frames of an exercise into a shoot, fuses them with the same faults, and goes on to mend the picture. */
export function MendIt({ darkroom, request, missing }: Props) {
  const router = useRouter()
  const [doing, setDoing] = useState('')
  const [error, setError] = useState('')
  const begin = async () => {
    setError('')
    const shoot = await taken(darkroom, request, missing, setDoing)
    router.push(`/shoots/${shoot}/mend`)
  }
  return (
    <>
      <button
        type="button"
        disabled={doing !== ''}
        onClick={() =>
          void begin().catch((cause: Error) => {
            setDoing('')
            setError(cause.message)
          })
        }
      >
        Mend this picture
      </button>
      <span aria-live="polite">{doing}</span>
      {error && <p role="alert">▲ {error}</p>}
    </>
  )
}

/** The shoot that the frames were taken into, once they are fused. */
async function taken(darkroom: Darkroom, request: SeriesRequest, missing: number, tell: (doing: string) => void): Promise<number> {
  const count = await darkroom.ask('count', { request })
  const shoot = await send<{ id: number }>('/api/shoots', 'POST', { title: 'Practice: wander and find', subject: '', scene: 'fossil', plan: null })
  const run = await send<{ id: number }>(`/api/shoots/${shoot.id}/runs`, 'POST')
  for (let index = 0; index < count; index++) {
    if (index === missing) continue
    tell(`Frame ${index + 1} of ${count} is taken into a shoot…`)
    const name = `frame_${String(index + 1).padStart(3, '0')}.png`
    await fetchJson(`/api/runs/${run.id}/frames?name=${name}`, { method: 'PUT', body: await asFile(await darkroom.ask('shoot', { request, index })) })
  }
  tell('The frames are fused…')
  // As the exercise does it: nothing that would take the faults away by itself.
  await runJob<'fuse'>(`/api/runs/${run.id}/fuse`, { style: 'lace', localWarp: 'never', moving: 'blend', dust: 'off' })
  return shoot.id
}

function asFile(bitmap: ImageBitmap): Promise<Blob> {
  const canvas = new OffscreenCanvas(bitmap.width, bitmap.height)
  canvas.getContext('2d')!.drawImage(bitmap, 0, 0)
  return canvas.convertToBlob()
}
