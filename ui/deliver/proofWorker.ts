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
  | { order: number; bitmap: ImageBitmap; light?: number[]; took_ms: number }
  | { order: number; error: string }

/** Kinds of light that are counted: half stops below white. */
export const LIGHT_KINDS = 24
const SPACE = spaceOf()

let picture: (Grey & { depth?: Grey; confidence?: Grey }) | undefined
let full = { width: 1, height: 1 }

/** What is drawn here is drawn by the browser; the size of a proof is its own. */
const TOOLS: Tools = {
  resize: async (samples) => samples,
  words: async (text, height_px) => {
    const canvas = new OffscreenCanvas(1, 1)
    const font = `600 ${Math.round(0.8 * height_px)}px 'Source Sans 3 Variable', sans-serif`
    canvas.getContext('2d')!.font = font
    canvas.width = Math.max(1, Math.ceil(canvas.getContext('2d')!.measureText(text).width))
    canvas.height = height_px
    const context = canvas.getContext('2d')!
    Object.assign(context, { font, fillStyle: '#fff', textBaseline: 'middle' })
    context.fillText(text, 0, height_px / 2)
    const { data } = context.getImageData(0, 0, canvas.width, canvas.height)
    return { width: canvas.width, height: canvas.height, data: Uint8Array.from({ length: canvas.width * canvas.height }, (_, i) => data[4 * i + 3]) }
  },
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
  picture = { ...samples, depth: fits(depth), confidence: fits(confidence) }
  full = size
  return { loaded: { width: samples.width, height: samples.height, depth: picture.depth !== undefined } }
}

async function prove({ order, steps, lightBefore, clipped }: ProofOrder): Promise<ProofReply> {
  const start = performance.now()
  const { width, height, data, depth, confidence } = picture!
  const canvas = (): Canvas => ({ samples: data.slice(), width, height, depth, confidence, space: SPACE, scale: width / full.width })
  const proof = (some: Step[]) => proofSteps(some, full, { width, height })
  const light = lightBefore === undefined ? undefined : lightOf(await finish(canvas(), proof(steps.slice(0, lightBefore)), TOOLS))
  const done = await finish(canvas(), proof(standing(steps)), TOOLS)
  return { order, bitmap: bitmapOf(done, clipped), light, took_ms: performance.now() - start }
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
