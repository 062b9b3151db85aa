import { randomUUID } from 'node:crypto'
import { existsSync } from 'node:fs'
import sharp from 'sharp'
import type { FieldEntry } from '@/core/field'
import { check, deviceCallSchema, fieldLogSchema } from '@/schemas'
import { GARDEN, NIB } from '@/demo/scenario'
import { TestServer } from './testServer'

let server: TestServer
beforeEach(async () => {
  server = await TestServer.start()
})
afterEach(() => server.stop())

const entry = (second: number): FieldEntry => ({ id: randomUUID(), at: new Date(1.8e12 + second * 1000).toISOString(), kind: 'taken' })

describe('the field log', () => {
  test('keeps entries once, in the order of time, whatever the order they arrive in', async () => {
    const shootId = await server.newShoot()
    const [a, b, c] = [entry(1), entry(2), { ...entry(3), position: 4.5 }]
    await server.context.field.add(shootId, [c, a])
    await server.context.field.add(shootId, [a, b, c])
    expect((await server.context.shoots.detail(shootId)).field).toEqual([a, b, c])
  })

  test('refuses what is no entry with one sentence', () => {
    expect(() => check(fieldLogSchema, { entries: [{ ...entry(1), id: 'x' }] })).toThrow()
    expect(() => check(fieldLogSchema, { entries: [{ ...entry(1), kind: 'lent' }] })).toThrow()
    expect(check(fieldLogSchema, { entries: [entry(1)] })).toMatchObject({ entries: [{ kind: 'taken' }] })
  })
})

describe('the simulated devices', () => {
  test('a frame that is pressed becomes a frame of the shoot with EXIF; a test frame does not', async () => {
    const shootId = await server.context.shoots.create(NIB)
    const { benches, shoots } = server.context
    await benches.call(shootId, { do: 'open', faults: [], width_px: 1200 })
    await benches.call(shootId, { do: 'goTo', position_mm: 10 })
    const test = await benches.call(shootId, { do: 'press', test: true })
    expect(test.tones!.histogram.reduce((a, b) => a + b)).toBeGreaterThan(1000)
    const pressed = await benches.call(shootId, { do: 'press' })
    const { runs } = await shoots.detail(shootId)
    expect(runs).toHaveLength(1)
    const [frame] = runs[0].frames
    expect(frame.id).toBe(pressed.frameId)
    expect(frame).toMatchObject({ width: 1200, height: 800, exif: { fNumber: 8, iso: 100, focalLength_mm: 100 } })
    expect(Math.abs(frame.position_mm! - 10)).toBeLessThan(0.5)
    expect(existsSync(server.context.store.folders.frame(runs[0].id, frame.name))).toBe(true)
  })

  test('devices that are switched on again go on with the run of the log, and a run that it begins is a new one', async () => {
    const shootId = await server.context.shoots.create(NIB)
    const { benches, shoots } = server.context
    const begun = randomUUID()
    for (const runs of [[''], ['', begun, '']]) {
      await benches.call(shootId, { do: 'open', faults: [], width_px: 360 })
      for (const run of runs) await benches.call(shootId, { do: 'press', run })
    }
    const { runs } = await shoots.detail(shootId)
    const byLog = (id: string) => runs.find(({ begun_by }) => begun_by === id)!.frames.map(({ name }) => name)
    expect(runs).toHaveLength(2)
    expect(byLog('')).toEqual(['frame_001.jpg', 'frame_002.jpg', 'frame_003.jpg'])
    expect(byLog(begun)).toEqual(['frame_001.jpg'])
  })

  test('three presses at once are three frames of one run, and a third bench has to wait for a free one', async () => {
    const { benches, shoots } = server.context
    const [first, second, third] = await Promise.all([NIB, NIB, NIB].map((shoot) => shoots.create(shoot)))
    await benches.call(first, { do: 'open', faults: [], width_px: 360 })
    await benches.call(second, { do: 'open', faults: [], width_px: 360 })
    await expect(benches.call(third, { do: 'open', faults: [], width_px: 360 })).rejects.toMatchObject({ code: 'device.tooMany' })
    await Promise.all([0, 1, 2].map(() => benches.call(first, { do: 'press' })))
    const { runs } = await shoots.detail(first)
    expect(runs.map(({ frames }) => frames.map(({ name }) => name))).toEqual([['frame_001.jpg', 'frame_002.jpg', 'frame_003.jpg']])
  })

  test('the garden is shot by distances, and devices that are off say so', async () => {
    const shootId = await server.context.shoots.create(GARDEN)
    const { benches } = server.context
    await expect(benches.call(shootId, { do: 'state' })).rejects.toMatchObject({ code: 'device.off' })
    await benches.call(shootId, { do: 'open', faults: ['endShort'], width_px: 360 })
    // From far to near, as planned: a step is the same change of image distance, so that nearer places lie farther apart.
    const stepAt = async (position_mm: number) => (await benches.call(shootId, { do: 'goTo', position_mm })).camera.focusStep
    const [far, middle, near, nearest] = [await stepAt(9450), await stepAt(950), await stepAt(200), await stepAt(-50)]
    expect(far).toBeGreaterThan(middle)
    expect(middle).toBeGreaterThan(near)
    expect(near).toBeGreaterThan(nearest)
    const image = (mm: number) => 24 / (1 - 24 / (mm + 550))
    // Whole steps, some twenty of them.
    expect(Math.abs((near - nearest) / (middle - near) - (image(-50) - image(200)) / (image(200) - image(950)))).toBeLessThan(0.1)
    await expect(benches.call(shootId, { do: 'move', position_mm: 3 })).rejects.toMatchObject({ code: 'device.noRail' })
    const look = await benches.call(shootId, { do: 'look', look: { spot: { x: 0.5, y: 0.6 }, magnifier: false } })
    expect((await sharp(Buffer.from(look.jpeg!, 'base64')).metadata()).width).toBe(330)
    benches.stop()
    await expect(benches.call(shootId, { do: 'state' })).rejects.toMatchObject({ code: 'device.off' })
  })

  test('a call that names nothing is refused', () => {
    expect(() => check(deviceCallSchema as never, { do: 'fly' })).toThrow()
    expect(() => check(deviceCallSchema as never, { do: 'drive', steps: 1.5 })).toThrow()
  })
})

describe('a whole card', () => {
  /** Stripes of one kind or another, as two motifs. */
  const motif = (kind: number) => {
    const samples = Buffer.alloc(120 * 80 * 3)
    for (let i = 0; i < samples.length; i++) {
      const [x, y] = [Math.floor(i / 3) % 120, Math.floor(i / 360)]
      samples[i] = kind === 0 ? 255 * (x / 120) : kind === 1 ? 255 * (y / 80) : 90 + (i % 3) * 20
    }
    return sharp(samples, { raw: { width: 120, height: 80, channels: 3 } })
      .jpeg()
      .toBuffer()
  }

  const split = async (runId: number) => server.context.jobs.outcome<'split'>(await server.context.work.split(runId))

  test('is taken apart into runs that tell why, and every file is where its run is', async () => {
    const runId = await server.newRun()
    for (let k = 0; k < 8; k++) await server.add(runId, `f${k}.jpg`, await motif(k < 4 ? 0 : 1))
    const { series } = await split(runId)
    expect(series.map(({ files }) => files.length)).toEqual([4, 4])
    const { db, store } = server.context
    const runs = await db.selectFrom('run').selectAll().orderBy('id').execute()
    expect(runs.map(({ reason }) => reason)).toEqual([null, 'it shows something else'])
    for (const frame of await db.selectFrom('frame').selectAll().execute())
      expect(existsSync(store.folders.frame(frame.run_id, frame.name))).toBe(true)
    expect(existsSync(store.folders.frame(runId, 'f7.jpg'))).toBe(false)
    expect((await split(runId)).series).toHaveLength(1)
  })

  test('what was split off wrongly is put back, files and all; not where names or pictures stand against it', async () => {
    const runId = await server.newRun()
    for (let k = 0; k < 8; k++) await server.add(runId, `f${k}.jpg`, await motif(k < 4 ? 0 : 1))
    await split(runId)
    const { db, store, shoots } = server.context
    const { shoot_id } = await shoots.runRow(runId)
    const [other] = await db.selectFrom('run').selectAll().where('shoot_id', '=', shoot_id).where('id', '!=', runId).execute()
    await expect(shoots.join(runId)).rejects.toMatchObject({ code: 'run.nothingBefore' })
    const twin = await server.add(runId, 'f7.jpg', await motif(0))
    await expect(shoots.join(other.id)).rejects.toMatchObject({ code: 'frame.nameTaken' })
    expect(await server.framesOf(other.id)).toEqual(['f4.jpg', 'f5.jpg', 'f6.jpg', 'f7.jpg'])
    for (const name of await server.framesOf(other.id)) expect(existsSync(store.folders.frame(other.id, name))).toBe(true)
    await server.context.bin.put('frame', twin.id)
    await server.context.bin.empty(true)
    expect(await shoots.join(other.id)).toBe(runId)
    const names = await server.framesOf(runId)
    expect(names.sort()).toEqual(Array.from({ length: 8 }, (_, k) => `f${k}.jpg`))
    for (const name of names) expect(existsSync(store.folders.frame(runId, name))).toBe(true)
    expect((await shoots.detail(shoot_id)).runs.map(({ id }) => id)).toEqual([runId])
    // Split again they part as before; a picture of one of them holds them where they are.
    await split(runId)
    const again = await db.selectFrom('run').selectAll().where('shoot_id', '=', shoot_id).where('binned_at', 'is', null).orderBy('id').execute()
    const render = { uid: 'r', folder: 'r', run_id: runId, job_id: null, report_json: '{}', bytes: 0, created_at: '' }
    await db.insertInto('render').values(render).execute()
    await expect(shoots.join(again[1].id)).rejects.toMatchObject({ code: 'run.joinRenders' })
  })
})
