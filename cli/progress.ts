import { existsSync } from 'node:fs'

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
  /** It rests until it is told to go on. */
  resting?: true
}

export type Progress = (event: ProgressEvent) => void

/** Progress on standard error where it is asked for. */
export function progressTo(wanted?: boolean): Progress {
  return (event) => void (wanted && process.stderr.write(`${JSON.stringify(event)}\n`))
}

const LOOK_AGAIN_ms = 250

/**
 * The same, resting before a frame as long as a file lies there: whoever began the work puts it there and takes it away. The thread waits
 * without doing anything; what it holds stays as it is.
 */
export function restingAt(file: string, tell: Progress): Progress {
  const waiting = new Int32Array(new SharedArrayBuffer(4))
  return (event) => {
    if (existsSync(file)) tell({ ...event, resting: true })
    while (existsSync(file)) Atomics.wait(waiting, 0, 0, LOOK_AGAIN_ms)
    tell(event)
  }
}
