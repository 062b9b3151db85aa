/** Sizes of a proof: as large as the screen has it, half of that, and a quarter. */
export type ProofSize = 0 | 1 | 2

/** Where half the size takes longer than the first of these, a quarter is shown; and half of it again only where that would take no longer than the second. */
const [TOO_LONG_ms, SOON_ms] = [25, 12]
/** Half the size has so many times fewer pixels. */
const FEWER = 4

/**
 * At which size a proof is shown while something is dragged, by how long it took before. It does not go to and fro: each size keeps what it made
 * before by itself, and would have to begin anew.
 */
export class Pace {
  private quick: ProofSize = 1

  /** `fine` is what shows in fine detail only: a quarter would not show it. */
  sizeFor(dragged: boolean, fine: boolean): ProofSize {
    return dragged ? (fine ? 1 : this.quick) : 0
  }

  took(size: ProofSize, took_ms: number): void {
    if (size === 0) this.quick = took_ms / FEWER > TOO_LONG_ms ? 2 : 1
    else if (size === 1 && took_ms > TOO_LONG_ms) this.quick = 2
    else if (size === 2 && FEWER * took_ms < SOON_ms) this.quick = 1
  }
}
