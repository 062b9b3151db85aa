import type { Transaction } from 'kysely'
import type { Database, Tables } from '@/database'

/** Files to move: where each lies in the archive, and where it goes in the data folder. */
export type Moves = { from: string; to: string }[]

/** What a restore added. */
export interface RestoreReport {
  shoots: number
  runs: number
  frames: number
  renders: number
  kit: number
  files: number
}

interface Options {
  /** Whether what was added stays; else it is only reported. */
  keep: boolean
  /** Whether the file of a frame that is known already is gone. */
  lacks: (runId: number, file: string) => boolean
}

/** Ends a transaction whose outcome is wanted and whose changes are not. */
class Undo extends Error {
  constructor(readonly outcome: { report: RestoreReport; moves: Moves }) {
    super('undone')
  }
}

/**
 * Adds to `into` what only `from` has, told apart by `uid`. Numbers stay where they are free. `place` moves the files while the
 * records are not yet committed; where it fails, no record stays.
 */
export async function mergeRecords(
  from: Database,
  into: Database,
  place: (moves: Moves) => Promise<void>,
  { keep, lacks }: Options,
): Promise<{ report: RestoreReport; moves: Moves }> {
  try {
    return await into.transaction().execute(async (transaction) => {
      const merge = new Merge(from, transaction, lacks)
      const outcome = await merge.all()
      if (!keep) throw new Undo(outcome)
      await place(outcome.moves)
      return outcome
    })
  } catch (error) {
    if (error instanceof Undo) return error.outcome
    throw error
  }
}

class Merge {
  private readonly moves: Moves = []
  private readonly report: RestoreReport = { shoots: 0, runs: 0, frames: 0, renders: 0, kit: 0, files: 0 }

  constructor(
    private readonly from: Database,
    private readonly into: Transaction<Tables>,
    private readonly lacks: Options['lacks'],
  ) {}

  async all(): Promise<{ report: RestoreReport; moves: Moves }> {
    await this.kit()
    const shoots = await this.shoots()
    await this.fieldEntries(shoots)
    const runs = await this.runs(shoots)
    await this.frames(runs)
    const renders = await this.renders(runs)
    await this.mends(renders)
    await this.recipes(renders)
    await this.practice()
    return { report: this.report, moves: this.moves }
  }

  private async kit(): Promise<void> {
    for (const { id: _, ...item } of await this.from.selectFrom('kit_item').selectAll().orderBy('id').execute()) {
      const { numInsertedOrUpdatedRows } = await this.into
        .insertInto('kit_item')
        .values(item)
        .onConflict((conflict) => conflict.doNothing())
        .executeTakeFirstOrThrow()
      this.report.kit += Number(numInsertedOrUpdatedRows ?? 0)
    }
  }

  /** Numbers of the archive's shoots by what they are here. */
  private async shoots(): Promise<Map<number, number>> {
    const numbers = new Map<number, number>()
    for (const { id, ...shoot } of await this.from.selectFrom('shoot').selectAll().orderBy('id').execute()) {
      const here = await this.into.selectFrom('shoot').select('id').where('uid', '=', shoot.uid).executeTakeFirst()
      if (here) numbers.set(id, here.id)
      else {
        const free = await this.free('shoot', id)
        const made = await this.into
          .insertInto('shoot')
          .values({ ...shoot, ...free })
          .returning('id')
          .executeTakeFirstOrThrow()
        numbers.set(id, made.id)
        this.report.shoots++
      }
    }
    return numbers
  }

  private async fieldEntries(shoots: Map<number, number>): Promise<void> {
    for (const entry of await this.from.selectFrom('field_entry').selectAll().execute())
      await this.into
        .insertInto('field_entry')
        .values({ ...entry, shoot_id: shoots.get(entry.shoot_id)! })
        .onConflict((conflict) => conflict.column('id').doNothing())
        .execute()
  }

  private async runs(shoots: Map<number, number>): Promise<Map<number, number>> {
    const numbers = new Map<number, number>()
    for (const { id, ...run } of await this.from.selectFrom('run').selectAll().orderBy('id').execute()) {
      const here = await this.into.selectFrom('run').select('id').where('uid', '=', run.uid).executeTakeFirst()
      if (here) numbers.set(id, here.id)
      else {
        const shoot_id = shoots.get(run.shoot_id)!
        const taken = await this.into.selectFrom('run').select('number').where('shoot_id', '=', shoot_id).execute()
        const number = taken.some((other) => other.number === run.number) ? 1 + Math.max(...taken.map((other) => other.number)) : run.number
        const row = { ...run, ...(await this.free('run', id)), shoot_id, number }
        numbers.set(id, (await this.into.insertInto('run').values(row).returning('id').executeTakeFirstOrThrow()).id)
        this.report.runs++
      }
    }
    return numbers
  }

  private async frames(runs: Map<number, number>): Promise<void> {
    for (const { id, ...frame } of await this.from.selectFrom('frame').selectAll().orderBy('id').execute()) {
      const from = `runs/${frame.run_id}/frames/${frame.file}`
      const here = await this.into.selectFrom('frame').select(['run_id', 'file']).where('uid', '=', frame.uid).executeTakeFirst()
      if (here) {
        if (this.lacks(here.run_id, here.file)) this.moves.push({ from, to: `runs/${here.run_id}/frames/${here.file}` })
        continue
      }
      const run_id = runs.get(frame.run_id)!
      const clash = await this.into.selectFrom('frame').select('id').where('run_id', '=', run_id).where('name', '=', frame.name).executeTakeFirst()
      // Two frames of one name came into the same run on two machines: what is here stays.
      if (clash) continue
      const made = await this.into
        .insertInto('frame')
        .values({ ...frame, ...(await this.free('frame', id)), run_id })
        .returning('id')
        .executeTakeFirstOrThrow()
      this.moves.push({ from, to: `runs/${run_id}/frames/${frame.file}` })
      await this.captures(id, made.id, [frame.run_id, run_id])
      this.report.frames++
    }
  }

  /** The further captures of a frame that was added. */
  private async captures(from: number, to: number, [fromRun, toRun]: [number, number]): Promise<void> {
    for (const { id: _, ...capture } of await this.from.selectFrom('capture').selectAll().where('frame_id', '=', from).orderBy('id').execute()) {
      await this.into
        .insertInto('capture')
        .values({ ...capture, frame_id: to })
        .execute()
      this.moves.push({ from: `runs/${fromRun}/frames/${capture.file}`, to: `runs/${toRun}/frames/${capture.file}` })
    }
  }

  private async renders(runs: Map<number, number>): Promise<Map<number, number>> {
    const numbers = new Map<number, number>()
    for (const { id, job_id: _, ...render } of await this.from.selectFrom('render').selectAll().orderBy('id').execute()) {
      const here = await this.into.selectFrom('render').select('id').where('uid', '=', render.uid).executeTakeFirst()
      if (here) {
        numbers.set(id, here.id)
        continue
      }
      // Folders of older versions are called by number, which may be taken here.
      const row = { ...render, ...(await this.free('render', id)), job_id: null, folder: render.uid, run_id: runs.get(render.run_id)! }
      numbers.set(id, (await this.into.insertInto('render').values(row).returning('id').executeTakeFirstOrThrow()).id)
      this.moves.push({ from: `renders/${render.folder}/`, to: `renders/${render.uid}/` })
      this.report.renders++
    }
    return numbers
  }

  /** Mends, and of those that are here the edits that only the archive has; an edit that paints from a render knows it by its number. */
  private async mends(renders: Map<number, number>): Promise<void> {
    for (const { id, ...mend } of await this.from.selectFrom('mend').selectAll().orderBy('id').execute()) {
      const here = await this.into.selectFrom('mend').select('id').where('uid', '=', mend.uid).executeTakeFirst()
      const row = { ...mend, render_id: renders.get(mend.render_id)! }
      const { id: mend_id } = here ?? (await this.into.insertInto('mend').values(row).returning('id').executeTakeFirstOrThrow())
      const edits = await this.from.selectFrom('mend_edit').selectAll().where('mend_id', '=', id).orderBy('number').execute()
      for (const { number: _, ...edit } of edits)
        await this.into
          .insertInto('mend_edit')
          .values({ ...edit, mend_id, edit_json: renumbered(edit.edit_json, renders) })
          .onConflict((conflict) => conflict.columns(['mend_id', 'id']).doNothing())
          .execute()
    }
  }

  private async practice(): Promise<void> {
    for (const { id: _, ...tried } of await this.from.selectFrom('practice_try').selectAll().orderBy('id').execute())
      await this.into
        .insertInto('practice_try')
        .values(tried)
        .onConflict((conflict) => conflict.column('uid').doNothing())
        .execute()
  }

  /** Recipes under names, and what renders are being finished by; where that was changed here it stays. */
  private async recipes(renders: Map<number, number>): Promise<void> {
    for (const { id: _, ...recipe } of await this.from.selectFrom('recipe').selectAll().orderBy('id').execute()) {
      const known = await this.into.selectFrom('recipe').select(['uid', 'name']).execute()
      if (known.some(({ uid }) => uid === recipe.uid)) continue
      let name = recipe.name
      for (let k = 2; known.some((other) => other.name === name); k++) name = `${recipe.name} (${k})`
      await this.into
        .insertInto('recipe')
        .values({ ...recipe, name })
        .execute()
    }
    for (const development of await this.from.selectFrom('development').selectAll().execute())
      await this.into
        .insertInto('development')
        .values({ ...development, render_id: renders.get(development.render_id)! })
        .onConflict((conflict) => conflict.column('render_id').doNothing())
        .execute()
  }

  /** The number itself where nothing here has it. */
  private async free(table: 'shoot' | 'run' | 'frame' | 'render', id: number): Promise<{ id?: number }> {
    const taken = await this.into.selectFrom(table).select('id').where('id', '=', id).executeTakeFirst()
    return taken ? {} : { id }
  }
}

/** An edit whose render, where it paints from one, has the number that it has here. */
function renumbered(edit_json: string, renders: Map<number, number>): string {
  const edit = JSON.parse(edit_json) as { kind: string; file?: string }
  const number = edit.kind === 'render' ? /^render-(\d+)$/.exec(edit.file ?? '')?.[1] : undefined
  const here = number === undefined ? undefined : renders.get(Number(number))
  return here === undefined ? edit_json : JSON.stringify({ ...edit, file: `render-${here}` })
}
