import type { Similarity } from '../raster'
import { PairRegistrar, Preparer, steadied, STIRRED, stirredShare, type PairMotion, type Prepared } from '../register'
import type { FrameFacts } from './frameFacts'

/** Frames made ready that are kept; the rest is made again when asked for. */
const KEPT = 24

/** Registrations between frames of one survey, each made once: order, direction and steps all ask for them. */
export class Pairs {
  private readonly preparer = new Preparer()
  private readonly registrar = new PairRegistrar()
  private readonly prepared = new Map<FrameFacts, Prepared>()
  private readonly motions = new Map<FrameFacts, Map<FrameFacts, PairMotion>>()

  preparedOf(facts: FrameFacts): Prepared {
    const prepared = this.prepared.get(facts) ?? this.preparer.fromLuma(facts.luma)
    // The one asked for last stands last: a Map keeps the order in which things were put in.
    this.prepared.delete(facts)
    this.prepared.set(facts, prepared)
    if (this.prepared.size > KEPT) this.prepared.delete(this.prepared.keys().next().value!)
    return prepared
  }

  /** Motion from one frame to another, in px of the frames as surveyed. */
  between(from: FrameFacts, to: FrameFacts): PairMotion {
    let known = this.motions.get(from)
    if (!known) this.motions.set(from, (known = new Map()))
    let pair = known.get(to)
    if (!pair) known.set(to, (pair = this.register(from, to, this.preparedOf(from))))
    return pair
  }

  /**
   * Motion between neighbours in focus order: where parts of the subject moved on their own, that of what stands still. Farther
   * apart blur differs too much to tell.
   */
  betweenNeighbours(from: FrameFacts, to: FrameFacts): PairMotion & { stirred: boolean } {
    const pair = this.between(from, to)
    const [reference, frame] = [this.preparedOf(from), this.preparedOf(to)]
    const { width } = from.luma
    const stirred = stirredShare(reference, frame, pair.motion, width) >= STIRRED
    return { ...pair, stirred, motion: stirred ? steadied(reference, frame, pair.motion, width) : pair.motion }
  }

  /** Motion measured on the points of `reference`, which are those of `from` or some of them, beginning at `start`. */
  register(from: FrameFacts, to: FrameFacts, reference: Prepared, start?: Similarity): PairMotion {
    return this.registrar.register(reference, this.preparedOf(to), from.luma.width, start)
  }
}
