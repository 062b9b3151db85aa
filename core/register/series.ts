import { compose, IDENTITY, invert, type Bend, type Similarity } from '../raster'
import type { Following } from './following'
import type { Link } from './link'
import { measureLocal, quietLocal, reconcileLocal, steadied, stirredShare, STIRRED, type LocalLink } from './local'
import { PairRegistrar, type PairMotion } from './pair'
import type { Prepared } from './prepare'
import { reconcile } from './reconcile'
import { scaleGaps } from './scaleGaps'
import { SharpPlaces } from './sharpPlaces'

export interface SeriesRegistration {
  /** Motion from the reference frame to each frame. */
  motions: Similarity[]
  /** How each frame is bent beside its motion; absent where no parts that moved on their own were followed. */
  bends?: (Bend | undefined)[]
  /** Share of the picture, 0 … 1, that moved on its own between the frame before and each; 0 where that cannot be measured. */
  stirred: number[]
  /** Factor that brings each frame's brightness to the reference's. */
  gains: number[]
  /** Best correlation with a neighbour: what the motion can be trusted by. */
  correlations: number[]
  /** How far the scale of each frame can be trusted, see `scaleGaps`. */
  scaleGaps: (number | undefined)[]
  /** Frames that could not be registered: their motion is worth nothing. */
  lost: number[]
  /** The frame that the motions start from: the one asked for, or the nearest that is not lost. */
  reference: number
}

/** Neighbours beyond the next one that are measured too, so that errors do not add up along the series. */
const SPANS = [1, 2, 4]
/** The span that is measured from the later frame. */
const BACKWARDS = 2
/** A pair that is less alike than this was not registered; frames of one series are well above, other things well below. */
const LEAST_CORRELATION = 0.5
/** Where shorter links say how far two frames are apart, only this level and the finest have to be looked at. */
const CHAINED_LEVEL = 1
/** Nothing between two neighbours is scaled or turned more than this. */
const MOST_SCALE = 1.15
const MOST_TURN_rad = 0.12

/**
 * Registers a series one frame after the other, in focus order, keeping only the few pyramids that later pairs need.
 * Every frame is measured against the ones 1, 2 and 4 before it, and all measurements that can be trusted are then
 * reconciled; a frame that none of them reaches is lost.
 */
export class SeriesRegistrar {
  private readonly recent: Prepared[] = []
  private readonly links: Link[] = []
  private readonly localLinks: LocalLink[] = []
  private readonly stirred: number[] = []
  /** Motions from the first frame, link by link, as far as they reach. */
  private readonly chain: (Similarity | undefined)[] = [IDENTITY]
  private readonly sharp: SharpPlaces
  private count = 0
  private height_px = 0
  private lastScale = 1

  constructor(
    private readonly width_px: number,
    private readonly pairs = new PairRegistrar(),
    private readonly following: Following = 'never',
  ) {
    this.sharp = new SharpPlaces(width_px)
  }

  /** Takes the next frame. */
  add(prepared: Prepared): void {
    const here = this.count++
    const [{ width, height }] = prepared.levels
    this.height_px = Math.round((this.width_px * height) / width)
    this.stirred.push(0)
    for (const span of SPANS) {
      const from = here - span
      if (from < 0) break
      const chained = this.chained(from, here)
      // A bump in one step says nothing about the next, so only breathing (scale) is carried over as a first guess.
      const start = chained ?? { ...IDENTITY, scale: this.lastScale ** span }
      const earlier = this.recent[this.recent.length - span]
      const measured = this.measure(earlier, prepared, start, span, chained ? CHAINED_LEVEL : undefined)
      if (!trusted(measured)) continue
      if (span === 1) this.stirred[here] = stirredShare(earlier, prepared, measured.motion, this.width_px)
      const moved = this.movedBetween(from, here)
      const pair = moved ? { ...measured, motion: steadied(earlier, prepared, measured.motion, this.width_px) } : measured
      this.links.push({ from, to: here, pair })
      if (this.following !== 'never') this.localLinks.push(this.localLink([earlier, from], [prepared, here], pair.motion, span))
      this.chain[here] ??= this.chain[from] && compose(pair.motion, this.chain[from])
      if (span === 1) this.lastScale = pair.motion.scale
    }
    this.sharp.add(prepared)
    this.recent.push(prepared)
    if (this.recent.length > SPANS.at(-1)!) this.recent.shift()
  }

  /** All motions relative to frame `reference`, or to the nearest frame that is not lost. */
  finish(reference: number): SeriesRegistration {
    const groups = groupsOf(this.links, this.count)
    const sizes = groups.map((group) => groups.filter((other) => other === group).length)
    const largest = groups[sizes.indexOf(Math.max(...sizes))]
    const kept = groups.flatMap((group, k) => (group === largest ? [k] : []))
    const start = kept.reduce((a, b) => (Math.abs(b - reference) < Math.abs(a - reference) ? b : a))
    const links = this.links.filter(({ from }) => groups[from] === largest)
    const best = Array.from({ length: this.count }, (_, k) =>
      links.reduce((most, { from, to, pair }) => (from === k || to === k ? Math.max(most, pair.correlation) : most), 0),
    )
    const found = reconcile(links, this.count, start, (motions) => this.sharp.depthsOf(links, motions))
    const localLinks = this.localLinks.filter(({ from }) => groups[from] === largest)
    const size = { width: this.width_px, height: this.height_px }
    return {
      ...found,
      ...(this.followed() && { bends: reconcileLocal(localLinks, found.motions, start, size) }),
      stirred: this.stirred,
      correlations: best,
      scaleGaps: scaleGaps(links, this.count),
      lost: groups.flatMap((group, k) => (group === largest ? [] : [k])),
      reference: start,
    }
  }

  /**
   * A pair aligns on what is sharp in the one that it starts from; as the focus moves on, always starting from the earlier
   * frame would add up to a drift. So every other span is measured backwards.
   */
  private measure(earlier: Prepared, later: Prepared, start: Similarity, span: number, level?: number): PairMotion {
    if (span !== BACKWARDS) return this.pairs.register(earlier, later, this.width_px, start, level)
    const back = this.pairs.register(later, earlier, this.width_px, invert(start), level)
    return { ...back, motion: invert(back.motion), gain: 1 / back.gain }
  }

  /** Whether anything is followed in this series. */
  private followed(): boolean {
    return this.following === 'always' || (this.following === 'whereMoved' && this.stirred.some((share) => share >= STIRRED))
  }

  /** Whether parts moved on their own from one frame to a later one: measured between neighbours, as farther apart blur differs too much. */
  private movedBetween(earlier: number, later: number): boolean {
    return this.stirred.slice(earlier + 1, later + 1).some((share) => share >= STIRRED)
  }

  /** Measured where parts moved, in the direction in which the pair was: from what is sharp there. */
  private localLink(earlier: [Prepared, number], later: [Prepared, number], motion: Similarity, span: number): LocalLink {
    const backwards = span === BACKWARDS
    const [[fromFrame, from], [toFrame, to]] = backwards ? [later, earlier] : [earlier, later]
    const between = backwards ? invert(motion) : motion
    const measured = this.following === 'always' || this.movedBetween(earlier[1], later[1])
    const local = measured ? measureLocal(fromFrame, toFrame, between, this.width_px) : quietLocal(fromFrame, this.width_px)
    return { from, to, motion: between, local }
  }

  /** What the links so far say of the motion between two frames; nothing where they do not reach. */
  private chained(from: number, to: number): Similarity | undefined {
    const [a, b] = [this.chain[from], this.chain[to]]
    return a && b && compose(b, invert(a))
  }
}

function trusted({ motion, correlation }: PairMotion): boolean {
  return correlation >= LEAST_CORRELATION && Math.abs(Math.log(motion.scale)) < Math.log(MOST_SCALE) && Math.abs(motion.rotation_rad) < MOST_TURN_rad
}

/** For each frame the first one that links lead to it from. */
function groupsOf(links: Link[], count: number): number[] {
  const groups = Array.from({ length: count }, (_, k) => k)
  for (const { from, to } of links) {
    const [low, high] = [Math.min(groups[from], groups[to]), Math.max(groups[from], groups[to])]
    for (let k = 0; k < count; k++) if (groups[k] === high) groups[k] = low
  }
  return groups
}
