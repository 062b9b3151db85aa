import { spawn } from 'node:child_process'
import { createInterface } from 'node:readline'

export interface EngineEvent {
  stage: string
  frame: number
  of: number
  file?: string
  position_mm?: number
  soFar?: number
}

export type EngineEnd = { kind: 'done' } | { kind: 'failed'; sentence: string } | { kind: 'cancelled' }

/** Threads that decode share two heaps: with one each, what small pictures leave free in them stays with the engine, some 60 MB. */
const FEW_HEAPS = { MALLOC_ARENA_MAX: '2' }

/**
 * Runs the `nitidus` command as a child process, passing on its progress. Aborting `signal` ends the child at once.
 * Whatever happens to the child, this resolves: the server never dies with it.
 */
export function runEngine(engine: string, args: string[], onEvent: (event: EngineEvent) => void, signal: AbortSignal): Promise<EngineEnd> {
  return new Promise((resolve) => {
    const child = spawn(process.execPath, [engine, ...args, '--progress'], {
      stdio: ['ignore', 'ignore', 'pipe'],
      env: { ...FEW_HEAPS, ...process.env },
    })
    const kill = () => child.kill('SIGKILL')
    signal.addEventListener('abort', kill)
    if (signal.aborted) kill()
    let lastLine = ''
    createInterface({ input: child.stderr }).on('line', (line) => {
      const event = parse(line)
      if (event) onEvent(event)
      else if (line.trim()) lastLine = line.trim()
    })
    const end = (result: EngineEnd) => {
      signal.removeEventListener('abort', kill)
      resolve(signal.aborted ? { kind: 'cancelled' } : result)
    }
    child.on('error', (error) =>
      end({ kind: 'failed', sentence: `The engine could not be started: ${error.message}. Build it with the set-up command.` }),
    )
    child.on('close', (code, killedBy) => {
      if (code === 0) end({ kind: 'done' })
      else if (killedBy)
        end({ kind: 'failed', sentence: 'The engine was stopped from outside or ran out of memory; the frames are untouched, run it again.' })
      else end({ kind: 'failed', sentence: lastLine || 'The engine stopped without a reason; run it again.' })
    })
  })
}

function parse(line: string): EngineEvent | undefined {
  if (!line.startsWith('{')) return undefined
  try {
    return JSON.parse(line) as EngineEvent
  } catch {
    return undefined
  }
}
