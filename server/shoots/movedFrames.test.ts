import { existsSync } from 'node:fs'
import fs from 'node:fs/promises'
import { syncBuiltinESMExports } from 'node:module'
import { ownServer } from '../testRun'
import { picture } from '../testServer'

const { server } = ownServer()

/** Two runs of one shoot, with frames of different names. */
async function twoRuns() {
  const shootId = await server().newShoot()
  const runs: number[] = []
  for (const prefix of ['a', 'b']) {
    const runId = await server().context.shoots.addRun(shootId, 'imported')
    for (const k of [1, 2]) await server().add(runId, `${prefix}${k}.jpg`, await picture(60, 40, `#${k}${k}${prefix}`))
    runs.push(runId)
  }
  return { shootId, runs }
}

const STEPS = ['mkdir', 'link', 'rm'] as const

test.each(STEPS)('joining runs loses no original when any %s fails, and can be repeated', async (step) => {
  const { shootId, runs } = await twoRuns()
  const { db, store, shoots } = server().context
  let failures = 0
  for (let at = 1; ; at++) {
    const original = fs[step] as (...args: unknown[]) => Promise<unknown>
    let [calls, failed] = [0, false]
    const spy = jest.spyOn(fs, step).mockImplementation((async (...args: unknown[]) => {
      if (!String(args[0]).includes('frames') || ++calls !== at) return original(...args)
      failed = true
      throw Object.assign(new Error('injected'), { code: 'EIO' })
    }) as never)
    syncBuiltinESMExports()
    const joined = await shoots.join(runs[1]).then(
      () => true,
      () => false,
    )
    spy.mockRestore()
    syncBuiltinESMExports()
    for (const { run_id, file } of await db.selectFrom('frame').selectAll().execute())
      expect(existsSync(store.folders.frame(run_id, file))).toBe(true)
    const { runs: now } = await shoots.detail(shootId)
    expect(now.map(({ frames }) => frames.length)).toEqual(joined ? [4] : [2, 2])
    if (failed) failures++
    if (joined) break
  }
  expect(failures).toBeGreaterThanOrEqual(1)
})

test('a frame in the bin keeps its file when a run with a frame of that name is joined', async () => {
  const { runs } = await twoRuns()
  const { db, store, bin, shoots } = server().context
  const mine = await picture(60, 40, '#123456')
  const { id } = await server().add(runs[0], 'b1.jpg', mine)
  await bin.put('frame', id)
  await expect(shoots.join(runs[1])).rejects.toMatchObject({ code: 'frame.nameTaken' })
  const { run_id, file } = await db.selectFrom('frame').selectAll().where('id', '=', id).executeTakeFirstOrThrow()
  expect((await fs.readFile(store.folders.frame(run_id, file))).equals(mine)).toBe(true)
  for (const frame of await db.selectFrom('frame').selectAll().execute()) expect(existsSync(store.folders.frame(frame.run_id, frame.file))).toBe(true)
})
