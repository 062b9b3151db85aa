import path from 'node:path'
import type { Command } from 'commander'
import Joi from 'joi'
import { refusal } from '@/core/words'
import { check, JOB_FILES, JOB_VERSION, jobFileSchema, type JobFile } from '@/schemas'
import { runBackup, runRestore } from './backup'
import { runCheck } from './check'
import { runFinish } from './finish/runFinish'
import { runFuse } from './fuse/runFuse'
import { runInspect } from './inspect/runInspect'
import { readJson } from './json'
import { runMend } from './mend/runMend'
import { runNeeded } from './needed/runNeeded'
import { progressTo, type Progress } from './progress'
import { developMissing } from './raw'
import { runShoot } from './simulate'
import { runSplit } from './split'
import { runSurvey } from './survey'

/** What carries out each kind of job. The compiler finds a kind that is missing here. */
const RUNNERS: { [K in JobFile['kind']]: (job: Extract<JobFile, { kind: K }>, progress: Progress) => Promise<unknown> } = {
  shoot: runShoot,
  fuse: runFuse,
  inspect: runInspect,
  needed: runNeeded,
  mend: runMend,
  finish: runFinish,
  // Loaded when asked for: formats of surfaces bring large packages along.
  take: async (job, progress) => (await import('./take/runTake')).runTake(job, progress),
  survey: runSurvey,
  split: runSplit,
  check: runCheck,
  backup: runBackup,
  restore: runRestore,
}

/** `nitidus run job.json`: one piece of heavy work with everything it needs named in it. */
export function addRun(program: Command): void {
  program
    .command('run')
    .description('carry out one job file')
    .argument('<job>', 'JSON file of the job')
    .option('--progress', 'report progress on standard error, one JSON object a line')
    .action(async (file: string, { progress }: { progress?: boolean }) => {
      const job = jobFrom(await readJson(file), path.dirname(file))
      const tell = progressTo(progress)
      if ('frames' in job) await developMissing(job.frames ?? [], tell)
      await (RUNNERS[job.kind] as (job: JobFile, progress: Progress) => Promise<unknown>)(job, tell)
    })
}

/** A checked job, its paths made absolute. @throws Refusal naming what is wrong with it. */
function jobFrom(value: unknown, folder: string): JobFile {
  const { version } = (value ?? {}) as { version?: unknown }
  if (typeof version === 'number' && version > JOB_VERSION) throw refusal('job.version', { version: String(version) })
  const { version: _, kind, ...rest } = check(jobFileSchema, value) as { version: number; kind: JobFile['kind'] }
  const facts = check<object>(Joi.object(JOB_FILES[kind]).required() as Joi.Schema<object>, rest)
  return { kind, ...(placed(facts, folder) as object) } as JobFile
}

const PATHS = new Set([
  'file',
  'out',
  'report',
  'registration',
  'bends',
  'sourceMap',
  'depth',
  'confidence',
  'relief',
  'soFar',
  'looks',
  'picture',
  'fused',
  'dataFolder',
  'archive',
])

/** What of a job names no files of its own: edits know other renders by names. */
const NO_PATHS = new Set(['document', 'settings', 'recipe'])

/** Every path in a job, from the folder of its file. */
function placed(value: unknown, folder: string): unknown {
  if (Array.isArray(value)) return value.map((entry) => placed(entry, folder))
  if (value === null || typeof value !== 'object') return value
  return Object.fromEntries(
    Object.entries(value).map(([key, entry]) => [
      key,
      typeof entry === 'string' && PATHS.has(key) ? path.resolve(folder, entry) : NO_PATHS.has(key) ? entry : placed(entry, folder),
    ]),
  )
}
