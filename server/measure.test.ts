import { Readable } from 'node:stream'
import { ownServer } from './testRun'
import { picture } from './testServer'

const { server, run } = ownServer()

test('frames that do not show the sheet end the job with a sentence, and the run stays as it was', async () => {
  const { runId, shootId } = await run(2)
  const { store, work, jobs, shoots } = server().context
  for (const k of [0, 1]) await store.add(runId, `extra${k}.png`, Readable.from([await picture(90, 60, `#${k}${k}8`)])).catch(() => undefined)
  const before = await shoots.detail(shootId)
  const asked = await work.measure(runId, { pitch_mm: 1 })
  await expect(jobs.outcome<'measure'>(asked)).rejects.toMatchObject({ code: 'target.notSeen' })
  const after = await shoots.detail(shootId)
  expect(after.runs.map(({ frames }) => frames.map(({ name }) => name))).toEqual(before.runs.map(({ frames }) => frames.map(({ name }) => name)))
})

test('one frame alone measures nothing', async () => {
  const { runId } = await run(1)
  await expect(server().context.work.measure(runId, { pitch_mm: 1 })).rejects.toMatchObject({ code: 'run.tooFew' })
})
