import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { FOSSIL } from '@/demo/scenario'
import { check, fuseSettingsSchema } from '@/schemas'
import { openContext, readEnvironment, renderPage } from '@/server'

/** How long the list of shoots and one of them take to open: `npm run bench:home -- 2000` makes so many shoots, each with a surveyed run of 100 frames that was fused three times. */
const [count = '2000'] = process.argv.slice(2)
const FRAMES = 100
const RENDERS = 3
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
  const report = {
    version: 2,
    style: 'auto',
    settings: check(fuseSettingsSchema, {}),
    reference: names[FRAMES / 2],
    frames: names.map((file, k) => ({
      ...{ id: k, file, role: 'use', scale: 1 + k / 3333, rotation_deg: 0.0123, dx_px: 1.234, dy_px: -0.987, gain_ev: 0.0321 },
      ...{ moved_percent: 0, bent_px: 0, correlation: 0.98765, share_percent: 1.0123 },
    })),
    crop: { x: 12, y: 8, width: 5970, height: 3980 },
    timings_s: { total: 61.2 },
    peakMemory_MB: 801,
  }
  const report_json = JSON.stringify(report)
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
    for (let k = 0; k < Number(count) * RENDERS; k++)
      await all
        .insertInto('render')
        .values({
          uid: `render-${k}`,
          run_id: run + Math.floor(k / RENDERS),
          folder: `render-${k}`,
          bytes: 9_000_000,
          report_json,
          created_at: runRow.created_at,
        })
        .execute()
    await all
      .updateTable('run')
      .set({ survey_json: JSON.stringify(survey) })
      .execute()
  })
  const began = performance.now()
  const { all } = await shoots.list()
  console.log(
    `${all} shoots, ${Number(count) * FRAMES} frames; listed for the first time, everything counted: ${(performance.now() - began).toFixed(0)} ms`,
  )
  for (const [what, work] of [
    ['listed', () => shoots.list()],
    ['found by words', () => shoots.list({ words: 'shoot 19', order: 'title', from: 24 })],
    ['all renders', () => renderPage(db, { from: 100, first: first + 7 })],
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
  for (const [what, answer] of [
    ['a part of the list', await shoots.list()],
    ['a shoot', await shoots.detail(first + 7)],
  ] as const)
    console.log(`${what}: ${(JSON.stringify(answer).length / 1000).toFixed(0)} kB of JSON`)
} finally {
  await context.close()
  rmSync(folder, { recursive: true })
}
