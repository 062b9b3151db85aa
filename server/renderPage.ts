import { sql } from 'kysely'
import type { Database, Render } from '@/database'
import { storedReport, storedReportInShort, type RenderDetail, type RenderInShort, type RenderPage, type RenderQuery } from '@/schemas'

/** So many renders are handed out at a time. */
const PAGE = 50

/** A part of all renders, the newest first, those of one shoot before the others. Those in the bin are left out. */
export async function renderPage(db: Database, { from, first = 0 }: RenderQuery): Promise<RenderPage> {
  const all = db
    .selectFrom('render')
    .innerJoin('run', 'run.id', 'render.run_id')
    .innerJoin('shoot', 'shoot.id', 'run.shoot_id')
    .where('render.binned_at', 'is', null)
    .where('run.binned_at', 'is', null)
    .where('shoot.binned_at', 'is', null)
  const { count } = await all.select((e) => e.fn.countAll<number>().as('count')).executeTakeFirstOrThrow()
  const rows = await all
    .selectAll('render')
    .select('shoot.title')
    .orderBy(sql`shoot.id = ${first}`, 'desc')
    .orderBy('render.created_at', 'desc')
    .orderBy('render.id', 'desc')
    .offset(from)
    .limit(PAGE)
    .execute()
  return { renders: rows.map(({ title, ...render }) => ({ ...renderInShort(render), shootTitle: title })), all: Number(count) }
}

export const renderInShort = ({ id, uid, created_at, bytes, report_json }: Render): RenderInShort => ({
  ...{ id, uid, created_at, bytes },
  report: storedReportInShort(report_json),
})

export const renderDetail = ({ id, uid, created_at, bytes, report_json }: Render): RenderDetail => ({
  ...{ id, uid, created_at, bytes },
  report: storedReport(report_json),
})
