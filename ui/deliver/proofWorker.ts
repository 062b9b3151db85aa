import { WasmKernels } from '@/core/raster/kernels'
import type { Canvas, Grey, Step, Tools } from '@/core/finish'
import { proofSamples } from '../proofSamples'
import { Pace } from './pace'
import { halved, Proving } from './proving'

/** A picture to try recipes on: loaded once. */
export interface ProofLoad {
  load: { render: number; width: number; full: { width: number; height: number } }
}

export interface ProofOrder {
  order: number
  steps: Step[]
  /** Steps so far are measured: how much light there is of each kind before this one. */
  lightBefore?: number
  /** Places that are white or black altogether are marked. */
  clipped: boolean
  /** While something is dragged: at half the size or a quarter, to be soon there. */
  quick: boolean
  /** What is dragged shows in fine detail only: a quarter would not show it. */
  fine: boolean
}

export type ProofReply =
  | { loaded: { width: number; height: number; depth: boolean } }
  | { order: number; quick: boolean; width: number; height: number; pixels: Uint8ClampedArray<ArrayBuffer>; light?: number[] }
  | { order: number; error: string }

/** At the size of the screen, at half of it and at a quarter. */
let provings: Proving[] = []
const pace = new Pace()

/** Words that were drawn before, by what they are and how high. */
const drawn = new Map<string, ReturnType<Tools['words']>>()

/** A proof keeps its own size. Words are drawn by the server, by what draws them into the file. */
const TOOLS: Tools = {
  kernels: new WasmKernels(),
  resize: async (samples) => samples,
  words: (text, height_px) => {
    const key = `${height_px} ${text}`
    const known = drawn.get(key) ?? fetchWords(text, height_px)
    drawn.set(key, known)
    known.catch(() => drawn.delete(key))
    return known
  },
}

async function fetchWords(text: string, height: number): ReturnType<Tools['words']> {
  const response = await fetch(`/api/words?${new URLSearchParams({ text, height: String(height) })}`)
  if (!response.ok) throw new Error('The words cannot be drawn. Check that the application is still running.')
  return { width: Number(response.headers.get('x-width')), height, data: new Uint8Array(await response.arrayBuffer()) }
}

async function load({ render, width, full }: ProofLoad['load']): Promise<ProofReply> {
  const [samples, depth, confidence] = await Promise.all((['picture', 'depth', 'confidence'] as const).map((of) => proofSamples(render, of, width)))
  if (!samples) throw new Error('The picture cannot be loaded. Reload the page.')
  const fits = (map?: Grey) => (map?.width === samples.width && map.height === samples.height ? map : undefined)
  const picture = { ...samples, depth: fits(depth), confidence: fits(confidence) }
  const half = halved(picture)
  provings = [picture, half, halved(half)].map((size) => new Proving(size, full, TOOLS))
  return { loaded: { width: samples.width, height: samples.height, depth: picture.depth !== undefined } }
}

async function prove({ order, steps, lightBefore, clipped, quick, fine }: ProofOrder): Promise<ProofReply> {
  const light = lightBefore === undefined ? undefined : await provings[1].lightAfter(steps.slice(0, lightBefore))
  const began = performance.now()
  const size = pace.sizeFor(quick, fine)
  const done = await provings[size].prove(steps, quick)
  pace.took(size, performance.now() - began)
  return { order, quick, width: done.width, height: done.height, pixels: pixelsOf(done, clipped), light }
}

/** Marks of places that are white or black altogether: seen on any picture, and on nothing real. */
const WHITE = [255, 120, 0]
const BLACK = [0, 150, 255]

/** Levels of a screen by samples of 16 bits, to the nearest. */
const LEVELS = Uint8Array.from({ length: 65536 }, (_, sample) => Math.round(sample / 257))
const OPAQUE = 0xff000000
const packed = ([red, green, blue]: number[]) => red | (green << 8) | (blue << 16) | OPAQUE

/** Pixels as a canvas takes them. Handed over as they are: drawn in here, they would be copied twice and take as long again. */
function pixelsOf({ samples, width, height }: Canvas, clipped: boolean): Uint8ClampedArray<ArrayBuffer> {
  const pixels = new Uint32Array(width * height)
  for (let i = 0, o = 0; i < samples.length; i += 3, o++)
    pixels[o] = LEVELS[samples[i]] | (LEVELS[samples[i + 1]] << 8) | (LEVELS[samples[i + 2]] << 16) | OPAQUE
  if (clipped) markClipped(samples, pixels)
  return new Uint8ClampedArray(pixels.buffer)
}

function markClipped(samples: Uint16Array, pixels: Uint32Array): void {
  const [white, black] = [packed(WHITE), packed(BLACK)]
  for (let i = 0, o = 0; i < samples.length; i += 3, o++) {
    if (samples[i] === 65535 || samples[i + 1] === 65535 || samples[i + 2] === 65535) pixels[o] = white
    else if (samples[i] + samples[i + 1] + samples[i + 2] === 0) pixels[o] = black
  }
}

addEventListener('message', ({ data: asked }: MessageEvent<ProofLoad | ProofOrder>) => {
  const work = 'load' in asked ? load(asked.load) : prove(asked)
  work.then(
    (reply) => postMessage(reply, 'pixels' in reply ? { transfer: [reply.pixels.buffer] } : {}),
    (error: Error) => postMessage({ order: 'order' in asked ? asked.order : -1, error: error.message } satisfies ProofReply),
  )
})
