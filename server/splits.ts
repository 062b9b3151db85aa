import { link, mkdir, readFile, rm } from 'node:fs/promises'
import path from 'node:path'
import type { CardSplit } from '@/core/survey'
import { InputError } from '@/schemas'
import { now, type Database } from './database'
import type { Environment } from './environment'
import { runEngine } from './jobs'
import type { PictureStore } from './pictures'

/** Takes a whole card apart into runs. */
export class Splits {
  constructor(
    private readonly db: Database,
    private readonly environment: Environment,
    private readonly store: PictureStore,
  ) {}

  /**
   * Splits a run where its frames belong to several series: the first stays, each other one becomes a run of its own
   * that tells why. Nothing is moved unless everything can be.
   * @throws InputError where the run is gone or the engine ends with a sentence.
   */
  async split(runId: number): Promise<CardSplit> {
    const run = await this.db.selectFrom('run').selectAll().where('id', '=', runId).executeTakeFirst()
    if (!run) throw new InputError('This run does not exist any more; go back to the shoot.')
    const found = await this.find(runId)
    const others = found.series.slice(1)
    if (others.length === 0) return found
    const copies: string[] = []
    try {
      await this.db.transaction().execute(async (transaction) => {
        const { most } = await transaction
          .selectFrom('run')
          .select((e) => e.fn.max('number').as('most'))
          .where('shoot_id', '=', run.shoot_id)
          .executeTakeFirstOrThrow()
        for (const [k, { files, reason }] of others.entries()) {
          const { id } = await transaction
            .insertInto('run')
            .values({ shoot_id: run.shoot_id, number: Number(most) + k + 1, source: run.source, reason, created_at: now() })
            .returning('id')
            .executeTakeFirstOrThrow()
          await mkdir(this.store.folders.frames(id), { recursive: true })
          for (const name of files) {
            // A second name for the same file: until the database says otherwise, the frame is still where it was.
            await link(this.store.folders.frame(runId, name), this.store.folders.frame(id, name))
            copies.push(this.store.folders.frame(id, name))
          }
          await transaction.updateTable('frame').set({ run_id: id }).where('run_id', '=', runId).where('name', 'in', files).execute()
        }
        await transaction.updateTable('run').set({ survey_json: null }).where('id', '=', runId).execute()
      })
    } catch (error) {
      await Promise.all(copies.map((file) => rm(file, { force: true })))
      throw error
    }
    await Promise.all(others.flatMap(({ files }) => files).map((name) => rm(this.store.folders.frame(runId, name), { force: true })))
    return found
  }

  private async find(runId: number): Promise<CardSplit> {
    const scratch = this.store.folders.survey(runId)
    await mkdir(scratch, { recursive: true })
    const report = path.join(scratch, `split-${runId}.json`)
    try {
      const args = ['split', this.store.folders.frames(runId), '--report', report]
      const end = await runEngine(this.environment.engine, args, () => undefined, new AbortController().signal)
      if (end.kind === 'failed') throw new InputError(end.sentence)
      return JSON.parse(await readFile(report, 'utf8')) as CardSplit
    } finally {
      await rm(report, { force: true })
    }
  }
}
