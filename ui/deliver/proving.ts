import { finish, isPointwise, proofSteps, spaceOf, standing, type Canvas, type Grey, type Step, type Tools } from '@/core/finish'

/** A picture to try recipes on, with its maps. */
export interface ProofPicture extends Grey {
  depth?: Grey
  confidence?: Grey
}

/** Kinds of light that are counted: half stops below white. */
const LIGHT_KINDS = 24
const SPACE = spaceOf()

/**
 * Carries recipes out on a small picture. A handle that is dragged changes one step: what those before it made is kept, and only what comes
 * from there on is done again.
 */
export class Proving {
  private kept?: { steps: string[]; canvas: Canvas }
  private last: string[] = []

  /** `full` is the size of the picture that the recipe is for. */
  constructor(
    private readonly picture: ProofPicture,
    private readonly full: { width: number; height: number },
    private readonly tools: Tools,
  ) {}

  /** `quick` leaves out sharpening that comes after what is changed: at half the size it is hardly seen. */
  async prove(all: Step[], quick = false): Promise<Canvas> {
    const wanted = this.scaled(all)
    const first = this.firstChanged(wanted)
    const steps = quick ? wanted.filter((step, k) => k <= first || step.do !== 'sharpen') : wanted
    const names = steps.map(nameOf)
    const { kept } = this
    const serves = kept !== undefined && kept.steps.length <= first && kept.steps.every((name, k) => name === names[k])
    let begun = serves ? kept.steps.length : 0
    let canvas = serves ? copied(kept.canvas) : this.canvas()
    const cut = groupStart(steps, first)
    if (cut > begun && first < steps.length) {
      canvas = await finish(canvas, steps.slice(begun, cut), this.tools)
      this.kept = { steps: names.slice(0, cut), canvas: copied(canvas) }
      begun = cut
    }
    return finish(canvas, steps.slice(begun), this.tools)
  }

  private firstChanged(steps: Step[]): number {
    const names = steps.map(nameOf)
    const same = names.findIndex((name, k) => name !== this.last[k])
    this.last = names
    return same < 0 ? names.length : same
  }

  /** How much of the picture has each kind of light after steps, the darkest first; the most is 1. */
  async lightAfter(steps: Step[]): Promise<number[]> {
    const { samples, space } = await finish(this.canvas(), this.scaled(steps), this.tools)
    const [r, g, b] = space.luminance
    const counts = new Array<number>(LIGHT_KINDS).fill(0)
    for (let i = 0; i < samples.length; i += 3) {
      const light = r * space.light[samples[i]] + g * space.light[samples[i + 1]] + b * space.light[samples[i + 2]]
      counts[Math.min(LIGHT_KINDS - 1, Math.max(0, LIGHT_KINDS + Math.floor(2 * Math.log2(light || 1e-9))))]++
    }
    const most = Math.max(...counts)
    return counts.map((count) => count / most)
  }

  private scaled(steps: Step[]): Step[] {
    return proofSteps(standing(steps), this.full, this.picture)
  }

  private canvas(): Canvas {
    const { width, height, data, depth, confidence } = this.picture
    return { samples: data.slice(), width, height, depth, confidence, space: SPACE, scale: width / this.full.width }
  }
}

const nameOf = (step: Step) => JSON.stringify(step)

/** Steps that change each pixel by itself are done together, and light beyond white goes from one to the next: their row is not cut. */
function groupStart(steps: Step[], at: number): number {
  let start = Math.min(at, steps.length)
  while (start > 0 && start < steps.length && isPointwise(steps[start].do) && isPointwise(steps[start - 1].do)) start--
  return start
}

const copied = (canvas: Canvas): Canvas => ({ ...canvas, samples: canvas.samples.slice() })

/** The same picture at half the size, for what has to be quick: means of four, and every second place of the maps. */
export function halved({ width, height, data, depth, confidence }: ProofPicture): ProofPicture {
  const [across, down] = [Math.max(1, width >> 1), Math.max(1, height >> 1)]
  const half = new Uint16Array(3 * across * down)
  for (let y = 0, o = 0; y < down; y++)
    for (let x = 0; x < across; x++)
      for (let c = 0; c < 3; c++, o++) {
        const i = 3 * (2 * y * width + 2 * x) + c
        half[o] = (data[i] + data[i + 3] + data[i + 3 * width] + data[i + 3 * width + 3] + 2) >> 2
      }
  const grey = (map?: Grey) =>
    map && {
      width: across,
      height: down,
      data: Uint16Array.from({ length: across * down }, (_, i) => map.data[2 * Math.floor(i / across) * width + 2 * (i % across)]),
    }
  return { width: across, height: down, data: half, depth: grey(depth), confidence: grey(confidence) }
}
