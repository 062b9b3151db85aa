'use client'

import { useEffect, useRef, useState } from 'react'
import { finish, insetAt, spaceOf, type Inset, type Place, type Step, type Tools } from '@/core/finish'
import { WasmKernels } from '@/core/raster/kernels'
import { areaSamples } from '../../areaSamples'
import styles from '../deliver.module.css'

/** As large as there is room beside the picture. */
export const LOOK_px = { width: 300, height: 190 }
const SPACE = spaceOf()

interface Props {
  renderId: number
  /** Of the render. */
  full: { width: number; height: number }
  /** Up to the one that is judged. */
  steps: Step[]
  /** In px of the picture at that step. */
  at: Place
}

/** Parts that were fetched, by their address. */
const fetched = new Map<string, Promise<Uint8Array | Uint16Array>>()

function partOf(address: string): Promise<Uint8Array | Uint16Array> {
  const known = fetched.get(address) ?? areaSamples(address)
  fetched.set(address, known)
  known.catch(() => fetched.delete(address))
  return known
}

let tools: Tools | undefined
const toolsHere = (): Tools =>
  (tools ??= {
    kernels: new WasmKernels(),
    resize: async (samples) => samples,
    words: async () => ({ width: 1, height: 1, data: new Uint8Array(1) }),
  })

/** A part of the picture pixel by pixel, as it will be delivered: what sharpening is judged by. */
export function Look({ renderId, full, steps, at }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const [error, setError] = useState('')
  // The same text for the same part: drawn again only where it is another.
  const wanted = JSON.stringify(insetAt(steps, full, at, LOOK_px))
  useEffect(() => {
    let gone = false
    const { source, scale, steps: own } = JSON.parse(wanted) as Inset
    const area = `x=${source.x}&y=${source.y}&width=${source.width}&height=${source.height}`
    const draw = async () => {
      const [part, sure] = await Promise.all([
        partOf(`/api/renders/${renderId}/area?${area}`),
        // Older renders have no confidence: all of them counts as sure, as in the file.
        partOf(`/api/renders/${renderId}/confidences?${area}`).catch(() => undefined),
      ])
      const wide = part instanceof Uint16Array ? part : Uint16Array.from(part, (value) => value * 257)
      const sized = await resized(wide, source, scale)
      const { samples, width, height } = await finish(
        { ...sized, confidence: sure && nearest(sure, source, sized), space: SPACE, scale: 1 },
        own,
        toolsHere(),
      )
      if (gone || !canvas.current) return
      const image = new ImageData(width, height)
      for (let i = 0, o = 0; i < samples.length; i += 3, o += 4) {
        for (let c = 0; c < 3; c++) image.data[o + c] = Math.round(samples[i + c] / 257)
        image.data[o + 3] = 255
      }
      Object.assign(canvas.current, { width, height })
      canvas.current.getContext('2d')!.putImageData(image, 0, 0)
      setError('')
    }
    draw().catch((cause: Error) => !gone && setError(cause.message))
    return () => {
      gone = true
    }
  }, [renderId, wanted])
  return (
    <figure className={styles.look}>
      <canvas ref={canvas} role="img" aria-label="A part at 100 % of what is delivered" data-testid="look" />
      <figcaption>{error || 'At 100 % of what is delivered. Click on the picture to look elsewhere.'}</figcaption>
    </figure>
  )
}

/** A copy in another size, as the browser resizes pictures. */
async function resized(samples: Uint16Array, { width, height }: { width: number; height: number }, scale: number) {
  if (scale === 1) return { samples: samples.slice(), width, height }
  const image = new ImageData(width, height)
  for (let i = 0, o = 0; i < samples.length; i += 3, o += 4) {
    for (let c = 0; c < 3; c++) image.data[o + c] = Math.round(samples[i + c] / 257)
    image.data[o + 3] = 255
  }
  const to = { width: Math.max(1, Math.round(width * scale)), height: Math.max(1, Math.round(height * scale)) }
  const bitmap = await createImageBitmap(image, { resizeWidth: to.width, resizeHeight: to.height, resizeQuality: 'high' })
  const canvas = new OffscreenCanvas(to.width, to.height)
  const context = canvas.getContext('2d')!
  context.drawImage(bitmap, 0, 0)
  const { data } = context.getImageData(0, 0, to.width, to.height)
  const out = new Uint16Array(3 * to.width * to.height)
  for (let i = 0, o = 0; o < out.length; i += 4, o += 3) for (let c = 0; c < 3; c++) out[o + c] = data[i + c] * 257
  return { samples: out, ...to }
}

/** A map in another size, each place from the nearest. */
function nearest(data: Uint8Array | Uint16Array, from: { width: number; height: number }, { width, height }: { width: number; height: number }) {
  const at = (to: number, whole: number, of: number) => Math.min(of - 1, Math.floor(((to + 0.5) * of) / whole))
  const places = Uint16Array.from({ length: width * height }, (_, i) => {
    const [x, y] = [at(i % width, width, from.width), at(Math.floor(i / width), height, from.height)]
    return data[y * from.width + x]
  })
  return { width, height, data: places }
}
