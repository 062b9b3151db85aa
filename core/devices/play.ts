/** A screw with play: it turns by so much before the carriage follows in the other direction. */
export class Play {
  /** Where the screw stands, as its dial or motor tells. */
  reading_mm = 0
  /** Where the carriage stands. It begins as if it had been approached from behind, its play taken up. */
  carriage_mm = 0
  private lag_mm = 0

  constructor(private readonly backlash_mm: number) {}

  moveTo(reading_mm: number): void {
    const by = reading_mm - this.reading_mm
    this.reading_mm = reading_mm
    // Going back, the carriage waits until the play is used up; going on again, it has to be taken up once more.
    const before = this.lag_mm
    this.lag_mm = Math.min(this.backlash_mm, Math.max(0, this.lag_mm - by))
    this.carriage_mm += by + (this.lag_mm - before)
  }

  /** The carriage goes by so much while the screw tells nothing of it. */
  slip(by_mm: number): void {
    this.carriage_mm += by_mm
  }
}
