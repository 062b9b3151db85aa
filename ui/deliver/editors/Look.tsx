'use client'

import { useEffect, useRef, useState } from 'react'
import { finish, greyByColour, insetAt, spaceOf, type PartOf, type Place, type Step, type Tools } from '@/core/finish'
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

function areaAt(address: string): Promise<Uint8Array | Uint16Array> {
  const known = fetched.get(address) ?? areaSamples(address)
  fetched.set(address, known)
  known.catch(() => fetched.delete(address))
  return known
}

/** A part of a render in another size, with its maps: older renders have none. */
const partOf =
  (renderId: number, steps: Step[]): PartOf =>
  async (source, scale) => {
    const area = `x=${source.x}&y=${source.y}&width=${source.width}&height=${source.height}`
    const map = (name: string) => areaAt(`/api/renders/${renderId}/${name}?${area}`).catch(() => undefined)
    const byDepth = steps.some((step) => step.do === 'depthGradient' || (step.do === 'local' && step.gate))
    const [part, sure, depths] = await Promise.all([
      areaAt(`/api/renders/${renderId}/area?${area}`),
      map('confidences'),
      byDepth ? map('depths') : undefined,
    ])
    const wide = part instanceof Uint16Array ? part : Uint16Array.from(part, (value) => value * 257)
    const sized = await resized(wide, source, scale)
    return {
      ...sized,
      confidence: sure && nearest(sure, source, sized),
      depth: depths && nearest(depths, source, sized),
      space: SPACE,
      scale: 1,
    }
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
  const wanted = JSON.stringify({ steps, at })
  useEffect(() => {
    let gone = false
    const draw = async () => {
      const asked = JSON.parse(wanted) as { steps: Step[]; at: Place }
      const part = partOf(renderId, asked.steps)
      const { source, scale, steps: own } = insetAt(await greyByColour(asked.steps, full, part, toolsHere()), full, asked.at, LOOK_px)
      const { samples, width, height } = await finish(await part(source, scale), own, toolsHere())
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
  }, [renderId, full, wanted])
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
