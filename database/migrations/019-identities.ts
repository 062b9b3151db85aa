import type { Kysely } from 'kysely'

interface Old {
  render: { id: number; uid: string; run_id: number; report_json: string }
  run: { id: number; shoot_id: number }
  frame: { id: number; uid: string; run_id: number; name: string }
  mend: { id: number; uid: string; render_id: number }
}

interface Report {
  frames?: { id?: number; uid?: string; file: string }[]
  mend?: { mend: number | string; of: number | string }
}

/**
 * Reports name frames, mends and renders by `uid` instead of row number. Row numbers change in a restore, so a restored report may hold
 * those of other shoots: a frame must have the same name and shoot; otherwise the run's frame of that name is used.
 */
export async function up(db: Kysely<Old>): Promise<void> {
  const runs = await db.selectFrom('run').select(['id', 'shoot_id']).execute()
  const shootOf = new Map(runs.map(({ id, shoot_id }) => [id, shoot_id]))
  const frames = await db.selectFrom('frame').select(['id', 'uid', 'run_id', 'name']).execute()
  const frameById = new Map(frames.map((frame) => [frame.id, frame]))
  const frameByName = new Map(frames.map((frame) => [`${frame.run_id} ${frame.name}`, frame]))
  const renders = await db.selectFrom('render').select(['id', 'uid', 'run_id', 'report_json']).orderBy('id').execute()
  const mends = await db.selectFrom('mend').select(['id', 'uid', 'render_id']).orderBy('id').execute()

  for (const { id, run_id, report_json } of renders) {
    const report = parsed(report_json)
    if (!report) continue
    for (const frame of report.frames ?? []) {
      const known = frame.id === undefined ? undefined : frameById.get(frame.id)
      const isSame = known?.name === frame.file && shootOf.get(known.run_id) === shootOf.get(run_id)
      const found = isSame ? known : frameByName.get(`${run_id} ${frame.file}`)
      delete frame.id
      if (found) frame.uid = found.uid
    }
    if (report.mend) {
      const before = renderBefore(id, run_id, report.mend.of)
      const mend = mends.find((other) => other.id === report.mend!.mend && other.render_id === before?.id)
      report.mend = {
        ...report.mend,
        of: before?.uid ?? '-',
        mend: (mend ?? mends.findLast(({ render_id }) => render_id === before?.id))?.uid ?? '-',
      }
    }
    await db
      .updateTable('render')
      .set({ report_json: JSON.stringify(report) })
      .where('id', '=', id)
      .execute()
  }

  /** The render that a mended one changes: the one it names if that is of the same run, otherwise the newest before it. */
  function renderBefore(id: number, run_id: number, of: number | string) {
    const older = renders.filter((render) => render.run_id === run_id && render.id < id && !parsed(render.report_json)?.mend)
    return renders.find((render) => render.id === of && render.run_id === run_id && render.id !== id) ?? older.at(-1)
  }
}

/** Undefined where it is no JSON; such a render stays unchanged and is refused when it is opened. */
function parsed(report_json: string): Report | undefined {
  try {
    return JSON.parse(report_json) as Report
  } catch {
    return undefined
  }
}
