import { WasmKernels } from '@/core/raster/kernels'
import { finish, proofSteps, spaceOf, standing, type Canvas, type Grey, type Step, type Tools } from '@/core/finish'

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
}

export type ProofReply =
  | { loaded: { width: number; height: number; depth: boolean } }
  | { order: number; bitmap: ImageBitmap; light?: number[] }
  | { order: number; error: string }

/** Kinds of light that are counted: half stops below white. */
export const LIGHT_KINDS = 24
const SPACE = spaceOf()

let picture: (Grey & { depth?: Grey; confidence?: Grey }) | undefined
let full = { width: 1, height: 1 }

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

async function fetched(render: number, of: string, width: number): Promise<Grey | undefined> {
  const response = await fetch(`/api/renders/${render}/proof?of=${of}&width=${width}`)
  if (!response.ok) return undefined
  const number = (name: string) => Number(response.headers.get(name))
  return { width: number('x-width'), height: number('x-height'), data: new Uint16Array(await response.arrayBuffer()) }
}

async function load({ render, width, full: size }: ProofLoad['load']): Promise<ProofReply> {
  const [samples, depth, confidence] = await Promise.all(['picture', 'depth', 'confidence'].map((of) => fetched(render, of, width)))
  if (!samples) throw new Error('The picture cannot be loaded. Reload the page.')
  const fits = (map?: Grey) => (map?.width === samples.width && map.height === samples.height ? map : undefined)
  kept = undefined
  last = []
  picture = { ...samples, depth: fits(depth), confidence: fits(confidence) }
  full = size
  return { loaded: { width: samples.width, height: samples.height, depth: picture.depth !== undefined } }
}

/** The picture after the first steps of the order before: a handle that is dragged changes one step, and those before it stay. */
let kept: { steps: string[]; canvas: Canvas } | undefined
let last: string[] = []

const copied = (canvas: Canvas): Canvas => ({ ...canvas, samples: canvas.samples.slice() })

/** Carries steps out, beginning with what those before the first changed one made. */
async function finished(start: Canvas, steps: Step[]): Promise<Canvas> {
  const names = steps.map((step) => JSON.stringify(step))
  const same = names.findIndex((name, k) => name !== last[k])
  const common = same < 0 ? names.length : same
  last = names
  const serves = kept !== undefined && kept.steps.length <= common && kept.steps.every((name, k) => name === names[k])
  let begun = serves ? kept!.steps.length : 0
  let canvas = serves ? copied(kept!.canvas) : start
  if (common > begun && common < steps.length) {
    canvas = await finish(canvas, steps.slice(begun, common), TOOLS)
    kept = { steps: names.slice(0, common), canvas: copied(canvas) }
    begun = common
  }
  return finish(canvas, steps.slice(begun), TOOLS)
}

async function prove({ order, steps, lightBefore, clipped }: ProofOrder): Promise<ProofReply> {
  const { width, height, data, depth, confidence } = picture!
  const canvas = (): Canvas => ({ samples: data.slice(), width, height, depth, confidence, space: SPACE, scale: width / full.width })
  const proof = (some: Step[]) => proofSteps(some, full, { width, height })
  const light = lightBefore === undefined ? undefined : lightOf(await finish(canvas(), proof(steps.slice(0, lightBefore)), TOOLS))
  const done = await finished(canvas(), proof(standing(steps)))
  return { order, bitmap: bitmapOf(done, clipped), light }
}

/** How much of the picture has each kind of light, the darkest first; the most is 1. */
function lightOf({ samples, space }: Canvas): number[] {
  const [r, g, b] = space.luminance
  const counts = new Array<number>(LIGHT_KINDS).fill(0)
  for (let i = 0; i < samples.length; i += 3) {
    const light = r * space.light[samples[i]] + g * space.light[samples[i + 1]] + b * space.light[samples[i + 2]]
    counts[Math.min(LIGHT_KINDS - 1, Math.max(0, LIGHT_KINDS + Math.floor(2 * Math.log2(light || 1e-9))))]++
  }
  const most = Math.max(...counts)
  return counts.map((count) => count / most)
}

/** Marks of places that are white or black altogether: seen on any picture, and on nothing real. */
const WHITE = [255, 120, 0]
const BLACK = [0, 150, 255]

function bitmapOf({ samples, width, height }: Canvas, clipped: boolean): ImageBitmap {
  const image = new ImageData(width, height)
  for (let i = 0, o = 0; i < samples.length; i += 3, o += 4) {
    const [red, green, blue] = [samples[i], samples[i + 1], samples[i + 2]]
    const mark = !clipped ? undefined : red === 65535 || green === 65535 || blue === 65535 ? WHITE : red + green + blue === 0 ? BLACK : undefined
    image.data[o] = mark ? mark[0] : (red + 128) / 257
    image.data[o + 1] = mark ? mark[1] : (green + 128) / 257
    image.data[o + 2] = mark ? mark[2] : (blue + 128) / 257
    image.data[o + 3] = 255
  }
  const canvas = new OffscreenCanvas(width, height)
  canvas.getContext('2d')!.putImageData(image, 0, 0)
  return canvas.transferToImageBitmap()
}

addEventListener('message', ({ data: asked }: MessageEvent<ProofLoad | ProofOrder>) => {
  const work = 'load' in asked ? load(asked.load) : prove(asked)
  work.then(
    (reply) => postMessage(reply, 'bitmap' in reply ? { transfer: [reply.bitmap] } : {}),
    (error: Error) => postMessage({ order: 'order' in asked ? asked.order : -1, error: error.message } satisfies ProofReply),
  )
})
