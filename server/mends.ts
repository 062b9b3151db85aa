import { randomUUID } from 'node:crypto'
import { framesOfBase, type MendBase, type MendDocument, type MendEdit } from '@/core/mend'
import { refusal } from '@/core/words'
import { now, type Database, type Mend, type Render } from '@/database'
import { MOST_EDITS, storedBase, storedEdit, storedReport, type MendDetail } from '@/schemas'
import { renderOf } from './renders'

/** Mends of renders. Edits are only ever added: what two tabs or a pen and a mouse send at once is all kept, in the order it came. */
export class Mends {
  constructor(private readonly db: Database) {}

  /** The mends of a render, the newest first. @throws Refusal where there is no such render. */
  async of(renderId: number): Promise<MendDetail[]> {
    const render = await renderOf(this.db, renderId)
    const rows = await this.db.selectFrom('mend').selectAll().where('render_id', '=', render.id).orderBy('id', 'desc').execute()
    return Promise.all(rows.map((row) => this.detail(row)))
  }

  /** Begins a mend of a render. @throws Refusal where it names a frame that is not part of it. */
  async begin(renderId: number, title: string, base: MendBase): Promise<number> {
    const render = await renderOf(this.db, renderId)
    checkFrames(render, framesOfBase(base))
    const { id } = await this.db
      .insertInto('mend')
      .values({ uid: randomUUID(), render_id: render.id, title, base_json: JSON.stringify(base), created_at: now() })
      .returning('id')
      .executeTakeFirstOrThrow()
    return id
  }

  /**
   * Adds edits; one that is there already is not added again.
   * @throws Refusal where a frame is not part of the render, or there would be too many. Then none is added.
   */
  async add(mendId: number, edits: MendEdit[]): Promise<MendDetail> {
    const mend = await mendRow(this.db, mendId)
    const render = await renderOf(this.db, mend.render_id)
    checkFrames(
      render,
      edits.flatMap((edit) => (edit.kind === 'donor' ? [edit.frame] : [])),
    )
    for (const edit of edits) if (edit.kind === 'render') await this.checkRender(render, edit.file)
    await this.db.transaction().execute(async (transaction) => {
      const { count } = await transaction
        .selectFrom('mend_edit')
        .select((e) => e.fn.countAll<number>().as('count'))
        .where('mend_id', '=', mendId)
        .executeTakeFirstOrThrow()
      if (Number(count) + edits.length > MOST_EDITS) throw refusal('mend.tooMany', { most: MOST_EDITS })
      for (const edit of edits)
        await transaction
          .insertInto('mend_edit')
          .values({ mend_id: mendId, id: edit.id, edit_json: JSON.stringify(edit), created_at: now() })
          .onConflict((conflict) => conflict.columns(['mend_id', 'id']).doNothing())
          .execute()
    })
    return this.detail(mend)
  }

  /** Replaces the base of a mend, such as lines that were dragged. @throws Refusal where it names a frame that is not part of the render. */
  async rebase(mendId: number, base: MendBase): Promise<MendDetail> {
    const mend = await mendRow(this.db, mendId)
    checkFrames(await renderOf(this.db, mend.render_id), framesOfBase(base))
    await this.db
      .updateTable('mend')
      .set({ base_json: JSON.stringify(base) })
      .where('id', '=', mendId)
      .execute()
    return this.detail(await mendRow(this.db, mendId))
  }

  /** @throws Refusal where another render does not lie on this one px by px. */
  private async checkRender(render: Render, name: string): Promise<void> {
    const other = await renderOf(this.db, renderNamed(name))
    const [own, its] = [render, other].map(({ report_json }) => storedReport(report_json))
    const same = (['x', 'y', 'width', 'height'] as const).every((side) => own.crop[side] === its.crop[side])
    if (other.run_id !== render.run_id || own.reference !== its.reference || !same) throw refusal('mend.otherRender')
  }

  /** A mend as a document to carry out. @throws Refusal where there is none. */
  async document(mendId: number): Promise<{ render: Render; document: MendDocument }> {
    const mend = await mendRow(this.db, mendId)
    const { base, edits } = await this.detail(mend)
    return { render: await renderOf(this.db, mend.render_id), document: { base, edits } }
  }

  async remove(mendId: number): Promise<void> {
    await mendRow(this.db, mendId)
    await this.db.deleteFrom('mend').where('id', '=', mendId).execute()
  }

  private async detail({ id, title, created_at, base_json }: Mend): Promise<MendDetail> {
    const edits = await this.db.selectFrom('mend_edit').select('edit_json').where('mend_id', '=', id).orderBy('number').execute()
    return { id, title, created_at, base: storedBase(base_json), edits: edits.map(({ edit_json }) => knownEdit(edit_json)) }
  }
}

/** Edits that were checked before: every stroke is answered with the whole mend, and checking thousands each time takes seconds. */
const known = new Map<string, MendEdit>()

function knownEdit(edit_json: string): MendEdit {
  const found = known.get(edit_json)
  if (found) return found
  const edit = storedEdit(edit_json)
  if (known.size >= 2 * MOST_EDITS) known.clear()
  known.set(edit_json, edit)
  return edit
}

/** The number of a render in the name that edits have for it. @throws Refusal where it is no such name. */
export function renderNamed(name: string): number {
  const number = /^render-(\d+)$/.exec(name)?.[1]
  if (number === undefined) throw refusal('mend.otherRender')
  return Number(number)
}

/** @throws Refusal where there is no such mend. */
export async function mendRow(db: Database, mendId: number): Promise<Mend> {
  const mend = await db.selectFrom('mend').selectAll().where('id', '=', mendId).executeTakeFirst()
  if (!mend) throw refusal('mend.gone')
  return mend
}

function checkFrames({ report_json }: Render, names: string[]): void {
  const { frames } = storedReport(report_json)
  for (const name of names) {
    const known = frames.find(({ file }) => file === name)
    if (!known) throw refusal('mend.frameUnknown', { frame: name })
    if (known.role === 'left out') throw refusal('mend.frameLeftOut', { frame: name })
  }
}
