import path from 'node:path'
import { refusal } from '@/core/words'

/** Version of derived files. Those of an older version are made again, because their colours may be wrong. */
export const DERIVED_VERSION = 'v2'

/** Whether a name from a record names one file or folder, and nothing above or below it. */
export const isPlainName = (name: string): boolean => name.length <= 255 && !/[/\\\0]/.test(name) && !['', '.', '..'].includes(name)

/** Paths in a data folder. @throws Refusal (each of them) where a name from a record would lead out of its folder. */
export class Folders {
  constructor(private readonly dataFolder: string) {}

  /** All originals, and all renders. */
  runs(): string {
    return this.at('runs')
  }

  renders(): string {
    return this.at('renders')
  }

  frames(runId: number): string {
    return this.at('runs', String(runId), 'frames')
  }

  /** `file` is what the frame is stored as, not what the photographer's file was called. */
  frame(runId: number, file: string): string {
    return this.at('runs', String(runId), 'frames', file)
  }

  render(folder: string): string {
    return this.at('renders', folder)
  }

  /** Scratch space of a job; what it made is moved from here when it is complete. */
  job(jobId: number): string {
    return this.at('jobs', String(jobId))
  }

  jobs(): string {
    return this.at('jobs')
  }

  /** What a job has come to so far; gone when it ends. */
  soFar(jobId: number): string {
    return path.join(this.job(jobId), 'so-far')
  }

  /** Things that can be made again: thumbnails, zoom pyramids, delivered files. */
  derived(...parts: string[]): string {
    return this.at('derived', DERIVED_VERSION, ...parts)
  }

  /** Backups made on the screen, until they are deleted. */
  backups(): string {
    return this.at('backups')
  }

  /** What other devices are let in by: key, certificate, paired devices. It belongs to this machine and is in no backup. */
  lan(): string {
    return this.at('lan')
  }

  incoming(): string {
    return this.at('incoming')
  }

  private at(...parts: string[]): string {
    const wrong = parts.find((part) => !isPlainName(part))
    if (wrong !== undefined) throw refusal('data.outside', { name: wrong })
    return path.join(/* turbopackIgnore: true */ this.dataFolder, ...parts)
  }
}
