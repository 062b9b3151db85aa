import { spawn } from 'node:child_process'
import { createInterface } from 'node:readline'
import { say, type Sentence } from '@/core/words'

export interface EngineEvent {
  stage: string
  frame: number
  of: number
  file?: string
  position_mm?: number
  soFar?: number
  resting?: true
}

export type EngineEnd = { kind: 'done' } | { kind: 'failed'; sentence: Sentence } | { kind: 'cancelled' }

/**
 * How the engine's memory goes back to the system: threads that decode share two heaps, and whatever is larger than 128 kB
 * lies outside them. Else what small pictures leave free stays with the engine, some 150 MB.
 */
const GIVE_BACK = { MALLOC_ARENA_MAX: '2', MALLOC_MMAP_THRESHOLD_: '131072' }

/** Of what the engine writes besides its progress, such as the trace of a crash, so many lines go to the log. */
const KEPT_LINES = 30

/**
 * Carries out a job file in a child process, passing on its progress. Aborting `signal` ends the child at once.
 * Whatever happens to the child, this resolves: the server never dies with it.
 */
export function runEngine(engine: string, jobFile: string, onEvent: (event: EngineEvent) => void, signal: AbortSignal): Promise<EngineEnd> {
  return new Promise((resolve) => {
    const child = spawn(process.execPath, [engine, 'run', jobFile, '--progress'], {
      // By the channel the child notices the end of this process, however it ends.
      stdio: ['ignore', 'ignore', 'pipe', 'ipc'],
      env: { ...GIVE_BACK, ...process.env },
    })
    const kill = () => child.kill('SIGKILL')
    signal.addEventListener('abort', kill)
    if (signal.aborted) kill()
    let failed: Sentence | undefined
    const other: string[] = []
    createInterface({ input: child.stderr! }).on('line', (line) => {
      const event = parse(line)
      if (!event) other.splice(0, Math.max(0, other.push(line) - KEPT_LINES))
      if (event?.stage === 'failed') failed = { code: String(event.code), text: String(event.text) }
      else if (event && event.stage !== 'note') onEvent(event)
    })
    const end = (result: EngineEnd) => {
      signal.removeEventListener('abort', kill)
      resolve(signal.aborted ? { kind: 'cancelled' } : result)
    }
    child.on('error', (error) => end({ kind: 'failed', sentence: say('job.engineMissing', { reason: error.message }) }))
    child.on('close', (code, killedBy) => {
      if (code !== 0 && other.length > 0) console.error(`The engine wrote, before it ended with ${killedBy ?? code}:\n${other.join('\n')}`)
      if (code === 0) end({ kind: 'done' })
      else end({ kind: 'failed', sentence: killedBy ? say('job.killed') : (failed ?? say('job.silent')) })
    })
  })
}

type Told = EngineEvent & { code?: unknown; text?: unknown }

function parse(line: string): Told | undefined {
  if (!line.startsWith('{')) return undefined
  try {
    return JSON.parse(line) as Told
  } catch {
    return undefined
  }
}
