import { DustFinder } from '../dust'
import { blurStepOf, type BlurStep } from '../learn/slices'
import type { MoverKind } from '../movers'
import { compose, invert, type Picture } from '../raster'
import { say } from '../words'
import { median } from '../statistics'
import { coverageMessages, coverageOf, GAP_steps, placesOf, type Coverage, type Gap, type LeftOut } from './coverage'
import { orderedByScale } from './byScale'
import { nearEndOf } from './direction'
import { bestShares, exposuresAgainst, flawsOf, type Flaw } from './flaws'
import { frameFacts, type FrameFacts } from './frameFacts'
import { agreement, focusOrder, profilesOf } from './order'
import { Pairs } from './pairs'
import { stepsOf, type Steps } from './steps'

export type Role = 'use' | 'divider' | 'flawed' | 'idle'

export interface SurveyedFrame {
  file: string
  role: Role
  /** Why it has this role, as a code and in words; absent and empty for a frame that is simply used. */
  reasonCode?: ReasonCode
  reason: string
  exposure_ev: number
  /** Step from the used frame before it in focus order, where 1 is the usual one; absent for the first and for others. */
  step?: number
}

/** Why a frame is not used: what is wrong with it, or that it adds nothing. */
export type ReasonCode = Flaw['code'] | 'unmoved' | 'beyond' | 'beyond-plan'

export interface SurveyMessage {
  code: 'gap' | 'loose' | 'near-short' | 'far-short' | 'moved' | 'stirred' | 'exposure' | 'too-few' | 'clipped' | 'dust'
  text: string
  files: string[]
  /** How many frames would close a gap or reach an end, where that is known. */
  missing?: number
}

export interface SurveyReport {
  /** In focus order, near to far; frames that are not used stand where they were taken. */
  frames: SurveyedFrame[]
  /** How the files' names run through the focus. */
  order: 'near-to-far' | 'far-to-near' | 'mixed'
  /** What showed which end is near. */
  directionBy: 'perspective' | 'breathing' | 'names'
  coverage: Coverage
  /** How much blur a usual step makes; absent where the frames do not tell. */
  blurStep?: BlurStep
  exposure: { spread_ev: number }
  messages: SurveyMessage[]
}

/** A frame nearer to the one before than this repeats it. */
const REPEATS = 0.3
/** A picture that jumps by more than this part of its width was bumped. */
const BUMP = 0.012
const MOST_SPREAD_ev = 0.3
/** A frame this far from anything's best sharpness adds nothing. */
const NOTHING_SHARP = -1.1

/** The survey of a run: takes the frames in the order of their names, each once, and says what they are worth. */
export class Survey {
  private readonly files: string[] = []
  private readonly facts: FrameFacts[] = []
  private readonly pairs = new Pairs()

  /** `mover`, where it is known, tells near from far without guessing. */
  constructor(private readonly mover?: MoverKind) {}

  /** Takes the next frame, as small as some 640 px wide; all frames must have one size. */
  add(file: string, picture: Picture): void {
    this.files.push(file)
    this.facts.push(frameFacts(picture))
  }

  finish(): SurveyReport {
    const flaws = flawsOf(this.facts)
    const usable = this.files.map((_, k) => k).filter((k) => !flaws[k])
    const ordered = usable.length >= 3 ? this.inOrder(usable) : { order: usable, directionBy: 'names' as const }
    return new Findings(this.files, this.facts, flaws, ordered, this.pairs).report()
  }

  /** The usable frames from near to far. */
  private inOrder(usable: number[]) {
    const facts = usable.map((k) => this.facts[k])
    const path = orderedByScale(cutWhereScaleJumps(focusOrder(profilesOf(facts)), facts, this.pairs), facts, this.pairs)
    const inPath = path.map((k) => facts[k])
    const profiles = profilesOf(inPath)
    const names = path.map((k) => usable[k])
    const { nearFirst, by } = nearEndOf(inPath, profiles, stepsOf(inPath, profiles, this.pairs).motions, names, this.pairs, this.mover)
    return { order: nearFirst ? names : names.reverse(), directionBy: by }
  }
}

/** Why a frame is not used. */
interface Why {
  code: ReasonCode
  reason: string
}

/** What an ordered series comes to. */
class Findings {
  private readonly used: FrameFacts[]
  private readonly steps: Steps
  private readonly exposure: number[]

  constructor(
    private readonly files: string[],
    private readonly facts: FrameFacts[],
    private readonly flaws: (Flaw | undefined)[],
    private readonly ordered: { order: number[]; directionBy: SurveyReport['directionBy'] },
    pairs: Pairs,
  ) {
    this.used = ordered.order.map((k) => facts[k])
    this.steps = this.used.length >= 2 ? stepsOf(this.used, profilesOf(this.used), pairs) : { steps: [], motions: [], byScale: false }
    this.exposure = exposuresAgainst(facts, this.used.length > 0 ? this.used : facts)
  }

  report(): SurveyReport {
    const { order, directionBy } = this.ordered
    const coverage = this.pastEnds(coverageOf(this.used, this.steps, (place) => this.fileAt(place)))
    const spread_ev = spread(order.map((k) => this.exposure[k]))
    const blurStep = this.blurStep()
    return {
      frames: this.placed(this.frames()),
      order: namesRun(order),
      directionBy,
      coverage,
      ...(blurStep && { blurStep }),
      exposure: { spread_ev },
      messages: this.messages(coverage, spread_ev),
    }
  }

  private blurStep(): BlurStep | undefined {
    const { steps, motions } = this.steps
    const lengths = steps.map(({ length }) => length)
    if (lengths.length === 0 || !lengths.every(Number.isFinite)) return undefined
    return blurStepOf(
      this.used.map(({ luma }) => luma),
      motions,
      placesOf(lengths),
    )
  }

  /** Where frames were taken beyond the subject, its end was reached: nothing more is to be taken there. */
  private pastEnds(coverage: Coverage): Coverage {
    const beyond = [...this.idle()].flatMap(([n, { code }]) => (code === 'beyond' ? [n] : []))
    const near = beyond.some((n) => n < this.used.length / 2)
    const far = beyond.some((n) => n >= this.used.length / 2)
    return { ...coverage, ...(near && { nearEnd: 'reached' as const }), ...(far && { farEnd: 'reached' as const }) }
  }

  /** Flawed frames that were taken between two used ones. */
  private leftOut({ after, before }: Gap): LeftOut[] {
    const [from, to] = [this.files.indexOf(after), this.files.indexOf(before)].sort((a, b) => a - b)
    return this.files.flatMap((file, k) => {
      const flaw = this.flaws[k]
      return k > from && k < to && flaw?.role === 'flawed' ? [{ file, reason: flaw.reason }] : []
    })
  }

  private frames(): Map<number, SurveyedFrame> {
    const { order } = this.ordered
    const idle = this.idle()
    const entry = (k: number, role: Role, why?: Why, step?: number): [number, SurveyedFrame] => {
      const said = why ? { reasonCode: why.code, reason: why.reason } : { reason: '' }
      return [k, { file: this.files[k], role, ...said, exposure_ev: round(this.exposure[k]), ...(step !== undefined && { step: round(step) }) }]
    }
    return new Map([
      ...order.map((k, n) => {
        const why = idle.get(n)
        return entry(k, why ? 'idle' : 'use', why, this.steps.steps[n - 1]?.length)
      }),
      ...this.flaws.flatMap((flaw, k) => (flaw ? [entry(k, flaw.role, flaw)] : [])),
    ])
  }

  /** Frames that add nothing, by their place in the order, with the reason. */
  private idle(): Map<number, Why> {
    const idle = new Map<number, Why>()
    const { steps } = this.steps
    steps.forEach(({ length }, n) => {
      if (Math.abs(length) < REPEATS && steps.length > 2)
        idle.set(n + 1, { code: 'unmoved', reason: say('why.unmoved', { like: this.fileAt(n) }).text })
    })
    if (this.used.length < 5) return idle
    const best = bestShares(this.used)
    // One frame beyond the subject at each end is wanted; those beyond it are not.
    const beyond = (places: number[]) => places.slice(0, Math.max(0, places.findIndex((n) => best[n] > NOTHING_SHARP) - 1))
    const places = this.used.map((_, n) => n)
    for (const n of [...beyond(places), ...beyond(places.toReversed())]) idle.set(n, { code: 'beyond', reason: say('why.beyond').text })
    return idle
  }

  private messages(coverage: Coverage, spread_ev: number): SurveyMessage[] {
    const messages: SurveyMessage[] = []
    if (this.used.length < 3) messages.push({ code: 'too-few', text: say('survey.too-few').text, files: [] })
    messages.push(
      ...coverageMessages(coverage, this.steps.steps.length, { first: this.fileAt(0), last: this.fileAt(this.used.length - 1) }, (gap) =>
        this.leftOut(gap),
      ),
    )
    for (const { from, to, jump_percent } of this.bumps()) {
      messages.push({
        code: 'moved',
        text: say('survey.moved', { from, to, jump_percent }).text,
        files: [from, to],
      })
    }
    messages.push(...this.stirred())
    if (spread_ev > MOST_SPREAD_ev) {
      messages.push({
        code: 'exposure',
        text: say('survey.exposure', { spread_ev }).text,
        files: [],
      })
    }
    const clipped = this.ordered.order.filter((k) => this.facts[k].clipped > 0.05)
    if (clipped.length > this.used.length / 3) {
      messages.push({ code: 'clipped', text: say('survey.clipped').text, files: clipped.map((k) => this.files[k]) })
    }
    messages.push(...this.dust())
    return messages
  }

  /** Specks on the sensor: at the same place of every frame. */
  private dust(): SurveyMessage[] {
    const { motions } = this.steps
    if (motions.length !== this.used.length || motions.length === 0) return []
    const finder = new DustFinder()
    for (const { luma } of this.used) finder.add(luma)
    const back = invert(motions[motions.length >> 1])
    const { specks } = finder.finish(motions.map((motion) => compose(motion, back)))
    if (specks.length === 0) return []
    return [{ code: 'dust', text: say('survey.dust', { count: specks.length }).text, files: [] }]
  }

  /** Where the picture jumps beyond what breathing, sway and the steps before and after explain. */
  private bumps() {
    const width = this.used[0]?.luma.width ?? 1
    const jumps = this.steps.steps.map(({ motion }) => [motion.dx_px, motion.dy_px])
    const middle = [0, 1].map((axis) => median(jumps.map((jump) => jump[axis])))
    const away = jumps.map(([dx, dy]) => Math.hypot(dx - middle[0], dy - middle[1]))
    const usual = median(away)
    return away.flatMap((jump, n) =>
      jump > BUMP * width && jump > 5 * usual ? [{ from: this.fileAt(n), to: this.fileAt(n + 1), jump_percent: (100 * jump) / width }] : [],
    )
  }

  /** Said once for the whole run: in a breeze it is every step. */
  private stirred(): SurveyMessage[] {
    const { steps } = this.steps
    // Across a gap blur differs so much that it may look like movement.
    const places = steps.flatMap(({ length, stirred }, n) => (stirred && length <= GAP_steps ? [n] : []))
    if (places.length === 0) return []
    const files = places.map((n) => this.fileAt(n + 1))
    return [
      {
        code: 'stirred',
        text: say('survey.stirred', { from: this.fileAt(places[0]), to: files[0], steps: places.length, of: steps.length }).text,
        files,
      },
    ]
  }

  private fileAt(place: number): string {
    return this.files[this.ordered.order[place]]
  }

  /** All frames, those left out behind the used one that was taken before them. */
  private placed(frames: Map<number, SurveyedFrame>): SurveyedFrame[] {
    const list = this.ordered.order.map((k) => k)
    this.files.forEach((_, k) => {
      if (list.includes(k)) return
      const before = list.filter((other) => other < k).sort((a, b) => b - a)[0]
      list.splice(before === undefined ? 0 : list.indexOf(before) + 1, 0, k)
    })
    return list.map((k) => frames.get(k)!)
  }
}

/**
 * Frames beyond both ends of a subject look alike, all of them blurred, so that the shortest path may run through them
 * and begin in the middle. The picture's scale then jumps back on the way; the order begins and ends at the largest jump.
 */
function cutWhereScaleJumps(path: number[], facts: FrameFacts[], pairs: Pairs): number[] {
  const jumps = path.slice(1).map((k, n) => Math.log(pairs.between(facts[path[n]], facts[k]).motion.scale))
  const around = Math.abs(jumps.reduce((sum, jump) => sum + jump, 0))
  const largest = jumps.reduce((best, jump, n) => (Math.abs(jump) > Math.abs(jumps[best]) ? n : best), 0)
  if (Math.abs(jumps[largest]) < Math.max(LEAST_JUMP, 1.5 * around)) return path
  return [...path.slice(largest + 1), ...path.slice(0, largest + 1)]
}

/** A jump of scale, as a logarithm, below which nothing is cut. */
const LEAST_JUMP = 0.006

/** How names run along the order. */
function namesRun(order: number[]): SurveyReport['order'] {
  const along = agreement(order)
  if (along > 0.9) return 'near-to-far'
  return along < -0.9 ? 'far-to-near' : 'mixed'
}

const spread = (values: number[]) => (values.length > 0 ? round(Math.max(...values) - Math.min(...values)) : 0)
const round = (value: number) => Math.round(value * 1000) / 1000
