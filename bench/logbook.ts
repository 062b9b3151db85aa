import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { FOSSIL } from '@/demo/scenario'
import { openContext, readEnvironment } from '@/server'

/** How long the logbook takes to open and to search: `npm run bench:logbook -- 5000` fills one with so many runs of 20 frames. */
const [count = '5000'] = process.argv.slice(2)
const FRAMES = 20
const folder = mkdtempSync(path.join(tmpdir(), 'logbook-'))
const context = await openContext(readEnvironment({ ...process.env, NITIDUS_DATA: folder }))
try {
  const { db, shoots, logbook } = context
  const shoot = await shoots.create(FOSSIL)
  const first = await shoots.addRun(shoot, 'imported')
  const row = await db.selectFrom('run').selectAll().where('id', '=', first).executeTakeFirstOrThrow()
  await db.transaction().execute(async (all) => {
    for (let k = 1; k < Number(count); k++) {
      const run = { ...row, id: first + k, uid: `run-${k}`, number: k + 1, note: k % 50 === 0 ? 'The lamp stood too low.' : '' }
      await all.insertInto('run').values(run).execute()
    }
    for (let k = 0; k < Number(count) * FRAMES; k++) {
      const name = `frame_${(k % FRAMES) + 1}.jpg`
      const facts = { sha256: String(k), bytes: 9_000_000, width: 6000, height: 4000, bits: 8, position_mm: 0.5 * (k % FRAMES) }
      const frame = { uid: `frame-${k}`, run_id: first + Math.floor(k / FRAMES), name, file: name, created_at: row.created_at, ...facts }
      await all.insertInto('frame').values(frame).execute()
    }
  })
  for (const [what, words] of [
    ['opened', ''],
    ['searched for two words', 'lamp low'],
    ['searched for a lens', 'macro'],
    ['searched in vain', 'nowhere'],
  ]) {
    const times: number[] = []
    for (let k = 0; k < 9; k++) {
      const began = performance.now()
      await logbook.page({ words, stars: 0, from: 0 })
      times.push(performance.now() - began)
    }
    times.sort((a, b) => a - b)
    console.log(`${what}: ${times[4].toFixed(0)} ms, at the most ${times[8].toFixed(0)} ms`)
  }
} finally {
  await context.close()
  rmSync(folder, { recursive: true })
}
