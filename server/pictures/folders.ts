import path from 'node:path'
import { InputError } from '@/schemas'

/** Where the pictures of a data folder lie. Numbers only go into paths; names are checked first. */
export class Folders {
  constructor(private readonly dataFolder: string) {}

  frames(runId: number): string {
    return this.at('runs', String(runId), 'frames')
  }

  frame(runId: number, name: string): string {
    return path.join(this.frames(runId), safeName(name))
  }

  render(renderId: number): string {
    return this.at('renders', String(renderId))
  }

  /** Scratch space of a job; a render is moved from here when it is complete. */
  job(jobId: number): string {
    return this.at('jobs', String(jobId))
  }

  /** What a job has come to so far; gone when it ends. */
  soFar(jobId: number): string {
    return path.join(this.job(jobId), 'so-far')
  }

  /** Scratch space of a run's survey. */
  survey(runId: number): string {
    return this.at('jobs', `survey-${runId}`)
  }

  /** Things that can be made again: thumbnails and zoom pyramids. */
  derived(...parts: string[]): string {
    return this.at('derived', ...parts)
  }

  incoming(): string {
    return this.at('incoming')
  }

  private at(...parts: string[]): string {
    return path.join(/* turbopackIgnore: true */ this.dataFolder, ...parts)
  }
}

/**
 * A file name without folders, as frames are stored.
 * @throws InputError where it holds a path, `..`, or characters that no camera writes.
 */
export function safeName(name: string): string {
  if (!/^[\p{L}\p{N}][\p{L}\p{N} ._()+-]{0,150}$/u.test(name) || name.includes('..')) {
    throw new InputError('The file name may hold letters, digits, spaces and . _ - ( ) + only, and no folders; rename the file.')
  }
  return name
}
