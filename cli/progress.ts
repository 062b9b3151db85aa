/** What a long verb is doing: one JSON object a line on standard error with `--progress`. */
export interface ProgressEvent {
  stage: string
  /** 1-based. */
  frame: number
  of: number
  file?: string
  /** Of a simulated frame: its plane of focus; absent for a divider. */
  position_mm?: number
  /** How many pictures of what there is so far were written; with the newest frame in it. */
  soFar?: number
}

export type Progress = (event: ProgressEvent) => void

/** Progress on standard error where it is asked for. */
export function progressTo(wanted?: boolean): Progress {
  return (event) => void (wanted && process.stderr.write(`${JSON.stringify(event)}\n`))
}
