import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { FOSSIL } from '@/demo/scenario'
import { openContext, readEnvironment } from '@/server'

/** How long the list of shoots and one of them take to open: `npm run bench:home -- 2000` makes so many shoots, each with a surveyed run of 100 frames. */
const [count = '2000'] = process.argv.slice(2)
const FRAMES = 100
const folder = mkdtempSync(path.join(tmpdir(), 'home-'))
const context = await openContext(readEnvironment({ ...process.env, NITIDUS_DATA: folder }))
try {
  const { db, shoots } = context
  const first = await shoots.create(FOSSIL)
  const run = await shoots.addRun(first, 'imported')
  const shootRow = await db.selectFrom('shoot').selectAll().where('id', '=', first).executeTakeFirstOrThrow()
  const runRow = await db.selectFrom('run').selectAll().where('id', '=', run).executeTakeFirstOrThrow()
  const names = Array.from({ length: FRAMES }, (_, k) => `frame_${String(k + 1).padStart(3, '0')}.jpg`)
  const survey = {
    order: 'near-to-far',
    directionBy: 'names',
    frames: names.map((file, k) => ({ file, role: k % 10 ? 'use' : 'idle', reason: '', exposure_ev: 0 })),
    coverage: { nearEnd: 'reached', farEnd: 'reached', gaps: [] },
    exposure: { spread_ev: 0.03 },
    messages: [],
  }
  const exif_json = JSON.stringify({ body: 'Body A', lens: 'Macro 100 mm', fNumber: 5.6, iso: 100 })
  await db.transaction().execute(async (all) => {
    for (let k = 1; k < Number(count); k++) {
      await all
        .insertInto('shoot')
        .values({ ...shootRow, id: first + k, uid: `shoot-${k}`, title: `Shoot ${k}` })
        .execute()
      await all
        .insertInto('run')
        .values({ ...runRow, id: run + k, uid: `run-${k}`, shoot_id: first + k })
        .execute()
    }
    for (let k = 0; k < Number(count); k++)
      await all
        .insertInto('frame')
        .values(
          names.map((name, n) => ({
            ...{ uid: `frame-${k}-${n}`, run_id: run + k, name, file: name, sha256: `${k}-${n}`, bytes: 9_000_000 },
            ...{ width: 6000, height: 4000, bits: 8, position_mm: 0.1 * n, exif_json, created_at: runRow.created_at },
          })),
        )
        .execute()
    await all
      .updateTable('run')
      .set({ survey_json: JSON.stringify(survey) })
      .execute()
  })
  const began = performance.now()
  const { length } = await shoots.list()
  console.log(
    `${length} shoots, ${Number(count) * FRAMES} frames; listed for the first time, everything counted: ${(performance.now() - began).toFixed(0)} ms`,
  )
  for (const [what, work] of [
    ['listed', () => shoots.list()],
    ['one opened', () => shoots.detail(first + 7)],
  ] as const) {
    const times: number[] = []
    for (let k = 0; k < 9; k++) {
      const start = performance.now()
      await work()
      times.push(performance.now() - start)
    }
    times.sort((a, b) => a - b)
    console.log(`${what}: ${times[4].toFixed(0)} ms, at the most ${times[8].toFixed(0)} ms`)
  }
  console.log(`The list is ${(JSON.stringify(await shoots.list()).length / 1e6).toFixed(2)} MB of JSON`)
} finally {
  await context.close()
  rmSync(folder, { recursive: true })
}
