/** How fast files travel and how long the rest will take; time in which they rest does not count. */
export class Transfer {
  private done_bytes = 0
  private rested_ms = 0
  private restingSince_ms?: number
  private readonly began_ms: number

  constructor(
    private readonly total_bytes: number,
    private readonly clock: () => number = () => performance.now(),
  ) {
    this.began_ms = clock()
  }

  /** So many bytes are through, whether they were taken or refused. */
  pass(bytes: number): void {
    this.done_bytes += bytes
  }

  rest(): void {
    this.restingSince_ms ??= this.clock()
  }

  goOn(): void {
    if (this.restingSince_ms !== undefined) this.rested_ms += this.clock() - this.restingSince_ms
    this.restingSince_ms = undefined
  }

  /** MB a second so far, and seconds for what is left; undefined until something is through. */
  get pace(): { rate_MBps: number; left_s: number } | undefined {
    const now_ms = this.restingSince_ms ?? this.clock()
    const seconds = (now_ms - this.began_ms - this.rested_ms) / 1000
    if (this.done_bytes === 0 || seconds <= 0) return undefined
    return { rate_MBps: this.done_bytes / 1e6 / seconds, left_s: ((this.total_bytes - this.done_bytes) / this.done_bytes) * seconds }
  }
}
