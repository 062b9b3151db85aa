import { EventEmitter } from 'node:events'
import { mkdir, rm, writeFile } from 'node:fs/promises'
import PQueue from 'p-queue'
import { refusal, Refusal, say } from '@/core/words'
import { now, type Database, type Job } from '@/database'
import { restFile, type JobKind, type JobResults } from '@/schemas'
import { carryOut, sentenceOf, type JobEnd } from './carryOut'
import type { EngineEvent } from './engine'
import type { JobKindWork, JobTools, Lane } from './kind'
import { JOB_KINDS } from './kinds'

/** What a job is about; nothing for one about everything. */
export interface JobSubject {
  shoot_id?: number
  run_id?: number
  render_id?: number
}

/** Progress is written to the database at most this often; listeners get every event. */
const WRITE_EVERY_ms = 500
/** A database that cannot be written to (a full disk) is tried again this often. */
const TRY_AGAIN_ms = 2000

/** Jobs, kept in the database, so that a restart finds what was interrupted. Those of one lane run one after the other. */
export class JobQueue {
  readonly events = new EventEmitter().setMaxListeners(0)
  private readonly lanes: Record<Lane, PQueue> = {
    engine: new PQueue({ concurrency: 1 }),
    look: new PQueue({ concurrency: 1 }),
    files: new PQueue({ concurrency: 1 }),
  }
  private readonly running = new Map<number, AbortController>()
  private readonly unwritten = new Map<number, NodeJS.Timeout>()
  private closed = false

  constructor(
    private readonly tools: JobTools,
    private readonly kinds: Record<JobKind, JobKindWork<never, never>> = JOB_KINDS,
  ) {}

  /** Marks what a stopped server left running as interrupted and takes up what was still waiting. */
  async recover(): Promise<void> {
    const { code, text } = say('job.interrupted')
    await this.db
      .updateTable('job')
      .set({ state: 'interrupted', error: text, error_code: code, ended_at: now() })
      .where('state', '=', 'running')
      .execute()
    const waiting = await this.db.selectFrom('job').select(['id', 'kind']).where('state', '=', 'queued').orderBy('id').execute()
    for (const { id, kind } of waiting) this.enqueue(id, kind)
  }

  async add<K extends JobKind>(kind: K, subject: JobSubject, settings: object): Promise<Job> {
    const job = await this.db
      .insertInto('job')
      .values({ kind, ...subject, state: 'queued', settings_json: JSON.stringify(settings), created_at: now() })
      .returningAll()
      .executeTakeFirstOrThrow()
    this.tell(job)
    this.enqueue(job.id, kind)
    return job
  }

  /**
   * What a job answers once it has ended.
   * @throws Refusal with its own sentence where it ended badly.
   */
  async outcome<K extends JobKind>({ id }: Pick<Job, 'id'>): Promise<JobResults[K]> {
    const ended = await this.ended(id)
    if (ended.state === 'done') return JSON.parse(ended.result_json ?? 'null') as JobResults[K]
    throw new Refusal({ code: ended.error_code ?? `job.${ended.state}`, text: ended.error ?? '' })
  }

  /** @throws Refusal where there is no such job. */
  async job(jobId: number): Promise<Job> {
    const job = await this.db.selectFrom('job').selectAll().where('id', '=', jobId).executeTakeFirst()
    if (!job) throw refusal('job.gone')
    return job
  }

  /** Stops a job that waits or runs; a job that has ended stays unchanged. @throws Refusal where there is no such job. */
  async cancel(jobId: number): Promise<void> {
    if (this.abort(jobId)) return
    await this.job(jobId)
    if (await this.endCancelled(jobId, 'queued')) return
    // It may have begun while the database answered.
    if (this.abort(jobId)) return
    // One in state "running" that nothing runs was left so by a full disk: it ends here.
    await this.endCancelled(jobId, 'running')
  }

  private abort(jobId: number): boolean {
    const controller = this.running.get(jobId)
    controller?.abort()
    return controller !== undefined
  }

  private async endCancelled(jobId: number, from: 'queued' | 'running'): Promise<boolean> {
    const ending = this.db.updateTable('job').set({ state: 'cancelled', ended_at: now() }).where('id', '=', jobId)
    const cancelled = await ending.where('state', '=', from).returningAll().executeTakeFirst()
    if (cancelled) this.tell(cancelled)
    return cancelled !== undefined
  }

  /** Pauses a running job before its next frame, or resumes it. @throws Refusal where there is no such job. */
  async rest(jobId: number, resting: boolean): Promise<void> {
    await this.job(jobId)
    if (!this.running.has(jobId)) return
    const { folders } = this.tools.store
    const file = restFile(folders.job(jobId))
    if (!resting) return rm(file, { force: true })
    await mkdir(folders.jobs(), { recursive: true })
    await writeFile(file, '')
  }

  /** Whether anything waits or runs for these. */
  async busy(subject: JobSubject): Promise<boolean> {
    let query = this.db.selectFrom('job').select('id').where('state', 'in', ['queued', 'running'])
    for (const [column, id] of Object.entries(subject) as [keyof JobSubject, number][]) query = query.where(column, '=', id)
    return (await query.executeTakeFirst()) !== undefined
  }

  /** Resolves when nothing waits or runs. */
  async idle(): Promise<void> {
    await Promise.all(Object.values(this.lanes).map((lane) => lane.onIdle()))
  }

  /** Ends running jobs and starts no more; waiting jobs are run after the next start. */
  async close(): Promise<void> {
    this.closed = true
    for (const lane of Object.values(this.lanes)) lane.clear()
    for (const controller of this.running.values()) controller.abort()
    for (const timer of this.unwritten.values()) clearTimeout(timer)
    await this.idle()
  }

  private get db(): Database {
    return this.tools.db
  }

  private ended(id: number): Promise<Job> {
    return new Promise((resolve, reject) => {
      const over = (job: Job) => job.state !== 'queued' && job.state !== 'running'
      const onJob = (job: Job) => {
        if (job.id !== id || !over(job)) return
        this.events.off('any', onJob)
        resolve(job)
      }
      this.events.on('any', onJob)
      this.db.selectFrom('job').selectAll().where('id', '=', id).executeTakeFirstOrThrow().then(onJob, reject)
    })
  }

  private enqueue(jobId: number, kind: JobKind): void {
    const known = this.kinds[kind] as unknown as JobKindWork<JobKind, unknown> | undefined
    const lane = this.lanes[known?.lane ?? 'engine']
    lane.add(() => this.run(jobId)).catch((error: Error) => console.error(`Job ${jobId}: ${error.message}`))
  }

  private async run(jobId: number): Promise<void> {
    if (this.closed) return
    // Before the job is marked as running, so that whoever cancels it from then on reaches it.
    const controller = new AbortController()
    this.running.set(jobId, controller)
    const job = await this.begin(jobId)
    if (!job) return void this.running.delete(jobId)
    this.tell(job)
    const kind = this.kinds[job.kind] as unknown as JobKindWork<JobKind, unknown>
    const end = await carryOut(this.tools, kind, job, this.progressOf(job), controller.signal)
    this.running.delete(jobId)
    await rm(restFile(this.tools.store.folders.job(jobId)), { force: true }).catch(() => undefined)
    // A server that stops leaves its jobs as running: the next start says that they were interrupted.
    if (!this.closed) await this.write(job, end)
    if (!this.closed && !(await this.busy({}).catch(() => true))) this.events.emit('idle')
  }

  /** Marks a job that waits as running; undefined where it waits no more, or where that cannot be written. */
  private async begin(jobId: number): Promise<Job | undefined> {
    try {
      return await this.db
        .updateTable('job')
        .set({ state: 'running' })
        .where('id', '=', jobId)
        .where('state', '=', 'queued')
        .returningAll()
        .executeTakeFirst()
    } catch (error) {
      // What cannot even begin is not left waiting for ever.
      await this.write(await this.job(jobId), { kind: 'failed', sentence: sentenceOf(error) })
      return undefined
    }
  }

  /** Writes how a job ended, again and again until it can be written: the disk may be full. Who waits for it is told at once. */
  private async write(job: Job, end: JobEnd): Promise<void> {
    const ending = {
      state: end.kind,
      error: end.kind === 'failed' ? end.sentence.text : null,
      error_code: end.kind === 'failed' ? end.sentence.code : null,
      result_json: end.kind === 'done' ? JSON.stringify(end.result ?? null) : null,
      ended_at: now(),
    }
    try {
      const ended = await this.db
        .updateTable('job')
        .set(ending)
        .where('id', '=', job.id)
        .where('state', 'in', ['queued', 'running'])
        .returningAll()
        .executeTakeFirst()
      this.unwritten.delete(job.id)
      if (ended) this.tell(ended)
    } catch (error) {
      if (!this.unwritten.has(job.id)) {
        console.error(`Job ${job.id}: ${(error as Error).message}; tried again soon.`)
        this.tell({ ...job, ...ending })
      }
      if (this.closed) return
      this.unwritten.set(
        job.id,
        setTimeout(() => void this.write(job, end), TRY_AGAIN_ms),
      )
    }
  }

  private progressOf(job: Job): (event: EngineEvent) => void {
    let written = 0
    return (event) => {
      const progress_json = JSON.stringify(event)
      this.tell({ ...job, progress_json })
      // That it rests may be the last event for a long time.
      if (!event.resting && Date.now() - written < WRITE_EVERY_ms) return
      written = Date.now()
      this.db
        .updateTable('job')
        .set({ progress_json })
        .where('id', '=', job.id)
        .execute()
        // Progress is reported anyway; what matters is written at the end.
        .catch(() => undefined)
    }
  }

  private tell(job: Job): void {
    this.events.emit('any', job)
  }
}
