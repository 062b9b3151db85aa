import { mkdir, rm } from 'node:fs/promises'
import { connect, type Database } from './database'
import { readEnvironment, type Environment } from './environment'
import { Benches } from './devices'
import { FieldLogs } from './field'
import { fuseJob, JobQueue, shootJob } from './jobs'
import { KitStore } from './kit'
import { PictureStore } from './pictures'
import { Shoots } from './shoots'
import { Splits } from './splits'
import { Surveys } from './surveys'

/** Everything a route needs, opened once for the process. */
export interface Context {
  environment: Environment
  db: Database
  store: PictureStore
  jobs: JobQueue
  shoots: Shoots
  kit: KitStore
  surveys: Surveys
  field: FieldLogs
  benches: Benches
  splits: Splits
}

/** Opens a data folder: database, pictures and queue; interrupted jobs are marked and scratch is cleared. */
export async function openContext(environment: Environment = readEnvironment()): Promise<Context> {
  const db = await connect(environment.dataFolder)
  await mkdir(environment.importRoot, { recursive: true })
  const store = new PictureStore(db, environment)
  await rm(store.folders.incoming(), { recursive: true, force: true })
  const jobs = new JobQueue(db, { shoot: shootJob(environment, store), fuse: fuseJob(db, environment, store) })
  await jobs.recover()
  const shoots = new Shoots(db)
  const benches = new Benches(environment, store, shoots)
  return {
    environment,
    db,
    store,
    jobs,
    shoots,
    kit: new KitStore(db),
    surveys: new Surveys(db, environment, store),
    field: new FieldLogs(db),
    benches,
    splits: new Splits(db, environment, store),
  }
}

/** The bundler may load this module more than once; the process has one context all the same. */
const shared = globalThis as { nitidusContext?: Promise<Context> }

export function context(): Promise<Context> {
  return (shared.nitidusContext ??= openContext())
}
