import sharp from 'sharp'
import { framesToFuse } from './shoots'
import { picture, TestServer } from './testServer'

let server: TestServer
beforeEach(async () => {
  server = await TestServer.start()
})
afterEach(() => server.stop())

/** A frame of stripes, blurred more or less: enough for the engine to look at. */
const striped = (blur: number) => {
  const samples = Buffer.alloc(120 * 80 * 3, 40)
  for (let i = 0; i < samples.length; i++) if (Math.floor(i / 3) % 8 < 4) samples[i] = 200
  const made = sharp(samples, { raw: { width: 120, height: 80, channels: 3 } })
  return (blur > 0 ? made.blur(blur) : made).jpeg({ quality: 95 }).toBuffer()
}

async function run(blurs: number[]): Promise<number> {
  const runId = await server.newRun()
  for (const [k, blur] of blurs.entries()) await server.add(runId, `f${k}.jpg`, await striped(blur))
  return runId
}

const survey = async (runId: number) => server.context.jobs.outcome<'survey'>(await server.context.work.survey(runId))

const surveyOf = async (runId: number) =>
  (await server.context.db.selectFrom('run').select('survey_json').where('id', '=', runId).executeTakeFirstOrThrow()).survey_json

test('a survey is kept with its run until another frame comes', async () => {
  const runId = await run([2, 0, 2, 4])
  const report = await survey(runId)
  expect(report.frames).toHaveLength(4)
  expect(JSON.parse((await surveyOf(runId))!)).toEqual(report)
  await server.add(runId, 'g.jpg', await striped(1))
  expect(await surveyOf(runId)).toBeNull()
})

test('a run of one frame, or none, is said in a sentence', async () => {
  await expect(survey(await run([0]))).rejects.toMatchObject({ code: 'run.tooFew' })
  await expect(survey(4711)).rejects.toMatchObject({ code: 'run.gone' })
})

const surveyOfRoles = (roles: [string, string][]) => ({
  frames: roles.map(([file, role]) => ({ file, role, reason: '', exposure_ev: 0 })),
  order: 'near-to-far',
  directionBy: 'names',
  coverage: { nearEnd: 'reached', farEnd: 'reached', gaps: [] },
  exposure: { spread_ev: 0 },
  messages: [],
})

describe('what is fused', () => {
  const toFuse = async (runId: number) => (await framesToFuse(server.context.db, runId)).map(({ name }) => name)
  const aside = (name: string, value: number | null) =>
    server.context.db.updateTable('frame').set({ aside: value }).where('name', '=', name).execute()
  const surveyed = (runId: number, roles: [string, string][]) =>
    server.context.db
      .updateTable('run')
      .set({ survey_json: JSON.stringify(surveyOfRoles(roles)) })
      .where('id', '=', runId)
      .execute()

  test('without a survey all frames, in the order of their names', async () => {
    const runId = await server.newRun()
    for (const name of ['f10.jpg', 'f9.jpg']) await server.add(runId, name, await picture())
    expect(await toFuse(runId)).toEqual(['f9.jpg', 'f10.jpg'])
  })

  test('with one, the used frames in focus order; what a hand decides counts more', async () => {
    const runId = await run([0, 1, 2])
    await surveyed(runId, [
      ['f2.jpg', 'use'],
      ['f1.jpg', 'flawed'],
      ['f0.jpg', 'use'],
    ])
    expect(await toFuse(runId)).toEqual(['f2.jpg', 'f0.jpg'])
    await aside('f1.jpg', 0)
    await aside('f2.jpg', 1)
    expect(await toFuse(runId)).toEqual(['f1.jpg', 'f0.jpg'])
    await aside('f2.jpg', null)
    expect(await toFuse(runId)).toEqual(['f2.jpg', 'f1.jpg', 'f0.jpg'])
  })
})
