import { EventEmitter } from 'node:events'
import PQueue from 'p-queue'
import type { JobKind } from '@/schemas'
import { now, type Database, type Job } from '../database'
import type { EngineEnd, EngineEvent } from './engine'

/** The work of one kind of job; it is given a signal that is aborted on cancel. */
export type JobWork = (job: Job, onEvent: (event: EngineEvent) => void, signal: AbortSignal) => Promise<EngineEnd>

/** Progress is written to the database this often at the most; listeners hear of every event. */
const WRITE_EVERY_ms = 500

/** Jobs one after the other, kept in the database, so that a restart finds what was interrupted. */
export class JobQueue {
  readonly events = new EventEmitter().setMaxListeners(0)
  private readonly queue = new PQueue({ concurrency: 1 })
  private readonly running = new Map<number, AbortController>()

  constructor(
    private readonly db: Database,
    private readonly work: Record<JobKind, JobWork>,
  ) {}

  /** Marks what a stopped server left running as interrupted and takes up what was still waiting. */
  async recover(): Promise<void> {
    await this.db
      .updateTable('job')
      .set({ state: 'interrupted', error: 'The application stopped while this was running; run it again.', ended_at: now() })
      .where('state', '=', 'running')
      .execute()
    for (const { id } of await this.db.selectFrom('job').select('id').where('state', '=', 'queued').orderBy('id').execute()) this.enqueue(id)
  }

  async add(shootId: number, runId: number, kind: JobKind, settings: object): Promise<Job> {
    const job = await this.db
      .insertInto('job')
      .values({ shoot_id: shootId, run_id: runId, kind, state: 'queued', settings_json: JSON.stringify(settings), created_at: now() })
      .returningAll()
      .executeTakeFirstOrThrow()
    this.tell(job)
    this.enqueue(job.id)
    return job
  }

  /** Stops a job that waits or runs; one that has ended is left as it is. */
  async cancel(jobId: number): Promise<void> {
    this.running.get(jobId)?.abort()
    const job = await this.db
      .updateTable('job')
      .set({ state: 'cancelled', ended_at: now() })
      .where('id', '=', jobId)
      .where('state', '=', 'queued')
      .returningAll()
      .executeTakeFirst()
    if (job) this.tell(job)
  }

  /** Resolves when nothing waits or runs. */
  idle(): Promise<void> {
    return this.queue.onIdle()
  }

  private enqueue(jobId: number): void {
    void this.queue.add(() => this.run(jobId)).catch((error: Error) => console.error(`Job ${jobId}: ${error.message}`))
  }

  private async run(jobId: number): Promise<void> {
    const job = await this.db
      .updateTable('job')
      .set({ state: 'running' })
      .where('id', '=', jobId)
      .where('state', '=', 'queued')
      .returningAll()
      .executeTakeFirst()
    if (!job) return
    this.tell(job)
    const controller = new AbortController()
    this.running.set(jobId, controller)
    const end = await this.work[job.kind](job, this.progressOf(job), controller.signal).catch((error: Error): EngineEnd => ({
      kind: 'failed',
      sentence: error.message,
    }))
    this.running.delete(jobId)
    const ended = await this.db
      .updateTable('job')
      .set({ state: end.kind, error: end.kind === 'failed' ? end.sentence : null, ended_at: now() })
      .where('id', '=', jobId)
      .returningAll()
      .executeTakeFirst()
    if (ended) this.tell(ended)
  }

  private progressOf(job: Job): (event: EngineEvent) => void {
    let written = 0
    return (event) => {
      const progress_json = JSON.stringify(event)
      this.tell({ ...job, progress_json })
      if (Date.now() - written < WRITE_EVERY_ms) return
      written = Date.now()
      void this.db.updateTable('job').set({ progress_json }).where('id', '=', job.id).execute()
    }
  }

  private tell(job: Job): void {
    this.events.emit(`shoot-${job.shoot_id}`, job)
    this.events.emit('any', job)
  }
}
