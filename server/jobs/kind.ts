import type Joi from 'joi'
import type { JobFile, JobKind, JobResults } from '@/schemas'
import type { Database, Job } from '@/database'
import type { Environment } from '../environment'
import type { PictureStore } from '../pictures'
import type { EngineEvent } from './engine'

/** What jobs of every kind work with. */
export interface JobTools {
  db: Database
  environment: Environment
  store: PictureStore
}

/** A job that is carried out, with its settings as their schema says. */
export interface JobAtWork<Settings> extends JobTools {
  job: Job
  settings: Settings
  /** Folder of its own, cleared before and after. */
  scratch: string
}

/** Jobs of one lane run one after the other; lanes run side by side. */
export type Lane = 'engine' | 'look' | 'files'

/**
 * One kind of job: how its file for the engine is made, and what becomes of what the engine made. A new kind is a file in
 * `kinds/`, a line in its registry, its job file in `schemas/jobs.ts` and its runner in `cli/run.ts`.
 */
export interface JobKindWork<K extends JobKind, Settings> {
  lane: Lane
  settings: Joi.Schema<Settings>
  /** @throws Refusal where the job cannot be carried out any more. */
  prepare(at: JobAtWork<Settings>): Promise<Extract<JobFile, { kind: K }>>
  /** Takes in what was made while the engine goes on; an error ends the job. */
  onEvent?(at: JobAtWork<Settings>, event: EngineEvent): Promise<void>
  /** Takes in what was made when the engine has ended well; answers what the job is asked for. */
  finish(at: JobAtWork<Settings>): Promise<JobResults[K]>
  /** Whatever the end: removes what the job was handed. */
  ended?(at: JobAtWork<Settings>): Promise<void>
}
