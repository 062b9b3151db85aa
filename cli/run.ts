import path from 'node:path'
import type { Command } from 'commander'
import Joi from 'joi'
import { refusal } from '@/core/words'
import { check, JOB_FILES, JOB_VERSION, restFile, jobFileSchema, type JobFile } from '@/schemas'
import { readJson } from './json'
import { progressTo, restingAt, type Progress } from './progress'
import { developMissing } from './raw'

type Runner<K extends JobFile['kind']> = (job: Extract<JobFile, { kind: K }>, progress: Progress) => Promise<unknown>

/** What carries out each kind of job, read when it is asked for. The compiler finds a kind that is missing here. */
const RUNNERS: { [K in JobFile['kind']]: () => Promise<Runner<K>> } = {
  shoot: async () => (await import('./simulate')).runShoot,
  fuse: async () => (await import('./fuse/runFuse')).runFuse,
  inspect: async () => (await import('./inspect/runInspect')).runInspect,
  needed: async () => (await import('./needed/runNeeded')).runNeeded,
  mend: async () => (await import('./mend/runMend')).runMend,
  finish: async () => (await import('./finish/runFinish')).runFinish,
  take: async () => (await import('./take/runTake')).runTake,
  survey: async () => (await import('./survey')).runSurvey,
  split: async () => (await import('./split')).runSplit,
  measure: async () => (await import('./measure')).runMeasure,
  check: async () => (await import('./check')).runCheck,
  backup: async () => (await import('./backup')).runBackup,
  restore: async () => (await import('./backup')).runRestore,
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
      const tell = restingAt(restFile(path.dirname(path.resolve(file))), progressTo(progress))
      if ('frames' in job) await developMissing(job.frames ?? [], tell)
      const runner = (await RUNNERS[job.kind]()) as (job: JobFile, progress: Progress) => Promise<unknown>
      await runner(job, tell)
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
  'registered',
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
