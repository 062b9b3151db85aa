import { mkdir, rm, writeFile } from 'node:fs/promises'
import path from 'node:path'
import { isRefusal, say, type Sentence } from '@/core/words'
import { explained, type Job } from '@/database'
import { check, JOB_VERSION, type JobKind } from '@/schemas'
import { runEngine, type EngineEvent } from './engine'
import type { JobAtWork, JobKindWork, JobTools } from './kind'

/** How a job ended, with what it answers. */
export type JobEnd = { kind: 'done'; result: unknown } | { kind: 'failed'; sentence: Sentence } | { kind: 'cancelled' }

/**
 * Carries a job out: makes its file in a scratch folder, has the engine run it, and takes in what came of it. Nothing of the
 * scratch folder stays, however it ends.
 */
export async function carryOut(
  tools: JobTools,
  kind: JobKindWork<JobKind, unknown>,
  job: Job,
  onEvent: (event: EngineEvent) => void,
  signal: AbortSignal,
): Promise<JobEnd> {
  const scratch = tools.store.folders.job(job.id)
  let at: JobAtWork<unknown> | undefined
  if (signal.aborted) return { kind: 'cancelled' }
  try {
    await rm(scratch, { recursive: true, force: true })
    await mkdir(scratch, { recursive: true })
    at = { ...tools, job, settings: check(kind.settings, JSON.parse(job.settings_json)), scratch }
    const file = path.join(scratch, 'job.json')
    await writeFile(file, JSON.stringify({ version: JOB_VERSION, ...(await kind.prepare(at)) }, null, 2))
    const working = at
    const failed = new AbortController()
    // One after another, in the order in which they were made: the first raw frame of a run says how all are developed.
    let taking = Promise.resolve()
    let failure: unknown
    const take = async (event: EngineEvent) => {
      try {
        await kind.onEvent?.(working, event)
        onEvent(event)
      } catch (error) {
        failure ??= error
        failed.abort()
      }
    }
    const end = await runEngine(
      tools.environment.engine,
      file,
      (event) => (kind.onEvent ? void (taking = taking.then(() => take(event))) : onEvent(event)),
      AbortSignal.any([signal, failed.signal]),
    )
    await taking
    if (failure) throw failure
    if (end.kind !== 'done') return end
    return { kind: 'done', result: await kind.finish(at) }
  } catch (error) {
    return signal.aborted ? { kind: 'cancelled' } : { kind: 'failed', sentence: sentenceOf(error) }
  } finally {
    // What cannot be removed now is removed at the next start.
    await rm(scratch, { recursive: true, force: true }).catch(() => undefined)
    if (at) await kind.ended?.(at).catch(() => undefined)
  }
}

/** The sentence for an error; an error of ours goes to the log. */
export function sentenceOf(error: unknown): Sentence {
  const known = explained(error)
  if (isRefusal(known)) return { code: known.code, text: known.message }
  console.error(error)
  return say('server.inside')
}
