import { mkdir, readdir, rm } from 'node:fs/promises'
import path from 'node:path'
import { connect, DERIVED_VERSION, lockData, type DataLock, type Database } from '@/database'
import { Bin } from './bin'
import { Benches } from './devices'
import { readEnvironment, type Environment } from './environment'
import { FieldLogs } from './field'
import { Importing } from './importing'
import { JobQueue } from './jobs'
import { Mends } from './mends'
import { KitStore } from './kit'
import { Logbook } from './logbook'
import { Pairing } from './pairing'
import { Practice } from './practice'
import { Recipes } from './recipes'
import { makeRoom, PictureStore } from './pictures'
import { Shoots } from './shoots'
import { Storage } from './storage'
import { Streams } from './streams'
import { Watching } from './watching'
import { Work } from './work'

/** Everything a route needs, opened once for the process. */
export interface Context {
  environment: Environment
  db: Database
  store: PictureStore
  jobs: JobQueue
  work: Work
  shoots: Shoots
  kit: KitStore
  field: FieldLogs
  benches: Benches
  bin: Bin
  mends: Mends
  logbook: Logbook
  practice: Practice
  pairing: Pairing
  recipes: Recipes
  storage: Storage
  streams: Streams
  watching: Watching
  importing: Importing
  /** Ends what runs, lets go of streams, devices and the data folder. */
  close(): Promise<void>
}

const DAY_ms = 24 * 3600 * 1000

/**
 * Opens a data folder: database, pictures and queue; interrupted jobs are marked and scratch is cleared.
 * @throws Refusal where another process has it open, the disk is full, or the database is damaged.
 */
export async function openContext(environment: Environment = readEnvironment()): Promise<Context> {
  const lock = lockData(environment.dataFolder)
  try {
    return await openLocked(environment, lock)
  } catch (error) {
    lock.release()
    throw error
  }
}

async function openLocked(environment: Environment, lock: DataLock): Promise<Context> {
  const db = await connect(environment.dataFolder)
  const store = new PictureStore(db, environment)
  const kit = new KitStore(db)
  const shoots = new Shoots(db, store, kit)
  const jobs = new JobQueue({ db, environment, store })
  const mends = new Mends(db)
  const bin = new Bin(db, store, jobs)
  const benches = new Benches(environment, store, shoots)
  const streams = new Streams()
  const field = new FieldLogs(db)
  const watching = new Watching(environment, store, shoots, field)
  const importing = new Importing(db, store, shoots, jobs)
  // The bin's oldest things go at the start and once a day; derived files beyond their limits at the start and after jobs.
  const emptying = setInterval(() => void bin.empty().catch(complain), DAY_ms)
  emptying.unref()
  jobs.events.on('idle', () => void makeRoom(store.folders).catch(complain))
  try {
    await mkdir(environment.importRoot, { recursive: true })
    await clearScratch(store)
    await jobs.recover()
    await importing.recover()
    await makeRoom(store.folders)
    await bin.empty().catch(complain)
  } catch (error) {
    clearInterval(emptying)
    await db.destroy()
    throw error
  }
  return {
    environment,
    db,
    store,
    jobs,
    work: new Work(db, shoots, jobs, mends),
    shoots,
    kit,
    field,
    benches,
    bin,
    mends,
    logbook: new Logbook(db),
    practice: new Practice(db),
    pairing: new Pairing(store.folders.lan()),
    recipes: new Recipes(db),
    storage: new Storage(db, store, bin, jobs),
    streams,
    watching,
    importing,
    close: async () => {
      clearInterval(emptying)
      streams.end()
      benches.stop()
      await watching.close()
      await importing.close()
      await store.raw.close()
      await jobs.close()
      await db.destroy()
      lock.release()
    },
  }
}

const complain = (error: Error) => console.error(error.message)

async function clearScratch({ folders }: PictureStore): Promise<void> {
  await rm(folders.incoming(), { recursive: true, force: true })
  await rm(folders.jobs(), { recursive: true, force: true })
  const derived = path.dirname(folders.derived())
  for (const name of await readdir(derived).catch(() => []))
    if (name !== DERIVED_VERSION) await rm(path.join(derived, name), { recursive: true, force: true })
}

/** The bundler may load this module more than once; the process has one context all the same. */
const shared = globalThis as { nitidusContext?: Promise<Context> }

/** The process's context. Where it cannot be opened, the next call tries again: what was wrong may have been mended. */
export function context(): Promise<Context> {
  if (!shared.nitidusContext) {
    const opening = openContext()
    shared.nitidusContext = opening
    opening.catch(() => {
      if (shared.nitidusContext === opening) shared.nitidusContext = undefined
    })
  }
  return shared.nitidusContext
}

/** Closes the process's context, if it was opened. */
export async function closeContext(): Promise<void> {
  const opened = shared.nitidusContext
  shared.nitidusContext = undefined
  await opened?.then(
    (known) => known.close(),
    () => undefined,
  )
}
