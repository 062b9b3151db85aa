import fs from 'node:fs'
import { mkdir, readdir, readFile, symlink, writeFile } from 'node:fs/promises'
import path from 'node:path'
import { Readable } from 'node:stream'
import sharp from 'sharp'
import { GARDEN, NIB } from '@/demo/scenario'
import { planSeries, completePlanRequest } from '@/core/plan'

import { readEnvironment, simulationOf } from '.'
import { readTakenWith } from '@/codec'
import { plainName, storedName } from './pictures'
import { demoShoot as demo, picture, refusedWith, TestServer } from './testServer'

let server: TestServer
beforeEach(async () => {
  server = await TestServer.start()
})
afterEach(() => server.stop())

/** No file waits half received. */
const nothingHalf = async () => expect(await readdir(path.join(server.folder, 'incoming')).catch(() => [])).toEqual([])

describe('frames are taken in', () => {
  test('untouched, with checksum, size and EXIF', async () => {
    const runId = await server.newRun()
    const contents = await sharp(await picture())
      .withExif({ IFD0: { Model: 'Body A' }, IFD2: { FNumber: '56/10', ISOSpeedRatings: '200' } })
      .toBuffer()
    const frame = await server.add(runId, 'a 1.jpg', contents)
    expect(frame).toMatchObject({ name: 'a 1.jpg', width: 60, height: 40, bits: 8, bytes: contents.length })
    expect(frame.sha256).toMatch(/^[0-9a-f]{64}$/)
    expect(JSON.parse(frame.exif_json!)).toMatchObject({ body: 'Body A', fNumber: 5.6, iso: 200 })
    expect((await readFile(server.context.store.folders.frame(runId, 'a 1.jpg'))).equals(contents)).toBe(true)
    await nothingHalf()
  })

  test.each([
    ['a text file', 'a.jpg', Buffer.from('hello'), 'picture.unreadable'],
    ['an empty file', 'a.jpg', Buffer.alloc(0), 'picture.empty'],
    ['a path', '../a.jpg', Buffer.from('x'), 'frame.name'],
    ['dots', '..', Buffer.from('x'), 'frame.name'],
    ['another kind', 'a.gif', Buffer.from('x'), 'picture.ending'],
  ])('%s is refused and leaves nothing', async (_, name, contents, code) => {
    const runId = await server.newRun()
    await expect(server.add(runId, name, contents)).rejects.toMatchObject({ code })
    expect(await server.framesOf(runId)).toEqual([])
    await nothingHalf()
  })

  test('a truncated one, one of another size and one twice are refused; the others stay', async () => {
    const runId = await server.newRun()
    const whole = await picture(400, 300)
    await server.add(runId, 'a.jpg', whole)
    await expect(server.add(runId, 'b.jpg', whole.subarray(0, whole.length / 2))).rejects.toMatchObject({ code: 'picture.damaged' })
    await expect(server.add(runId, 'b.jpg', await picture(200, 300))).rejects.toMatchObject({ code: 'frame.size' })
    await expect(server.add(runId, 'a.jpg', whole)).rejects.toMatchObject({ code: 'frame.nameTaken' })
    expect(await server.framesOf(runId)).toEqual(['a.jpg'])
    expect(await readdir(server.context.store.folders.frames(runId))).toEqual(['a.jpg'])
  })

  test('the same bytes under another name are refused where somebody brings them, and taken where they were thrown away', async () => {
    const { store, bin } = server.context
    const runId = await server.newRun()
    const bring = (name: string, contents: Buffer, into = runId) => store.bring(into, name, Readable.from([contents]))
    const [one, other] = [await picture(60, 40, '#123'), await picture(60, 40, '#321')]
    const first = await bring('a.jpg', one)
    await expect(bring('a (1).jpg', one)).rejects.toEqual(refusedWith('frame.twice'))
    await bring('b.jpg', other)
    expect(await server.framesOf(runId)).toEqual(['a.jpg', 'b.jpg'])
    await nothingHalf()
    // A run of its own may have it, and this one again once its frame is in the bin.
    await bring('a.jpg', one, await server.newRun())
    await bin.put('frame', first.id)
    await bring('a (1).jpg', one)
    expect(await server.framesOf(runId)).toEqual(['a.jpg', 'b.jpg', 'a (1).jpg'])
  })

  test('a folder with copies in it gives each picture once, and says of the others what they are', async () => {
    const card = path.join(server.folder, 'import', 'copies')
    await mkdir(card, { recursive: true })
    for (const [name, colour] of [
      ['x1.jpg', '#123'],
      ['x2.jpg', '#321'],
      ['copy of x1.jpg', '#123'],
    ] as const)
      // prettier-ignore
      await writeFile(path.join(card, name), await picture(60, 40, colour))
    const runId = await server.newRun()
    const { taken, refused } = await server.addFolder(runId, 'copies')
    expect(taken).toBe(2)
    expect(refused.map(({ name, code }) => [name, code])).toEqual([['x1.jpg', 'frame.twice']])
  })

  test('a stream that breaks off stores nothing', async () => {
    const runId = await server.newRun()
    const broken = new Readable({
      read() {
        this.push(Buffer.alloc(5000))
        this.destroy(new Error('connection lost'))
      },
    })
    await expect(server.context.store.add(runId, 'a.jpg', broken)).rejects.toThrow('connection lost')
    expect(await server.framesOf(runId)).toEqual([])
    await nothingHalf()
  })

  test('a frame that is confirmed was flushed to the disk', async () => {
    const runId = await server.newRun()
    const flushed: string[] = []
    const real = fs.fsync
    const spy = jest.spyOn(fs, 'fsync').mockImplementation((fd, done) => {
      flushed.push(fs.readlinkSync(`/proc/self/fd/${fd}`))
      real(fd, done)
    })
    await server.add(runId, 'a.jpg', await picture())
    spy.mockRestore()
    expect(flushed).toEqual([expect.stringMatching(/incoming.*\.jpg$/)])
  })

  test('a full quota refuses with the figures and leaves nothing half', async () => {
    const runId = await server.newRun()
    const small = await server.open({ NITIDUS_QUOTA_MB: '0.002' })
    await server.add(runId, 'a.jpg', await picture(), small)
    await expect(server.add(runId, 'b.jpg', await picture(900, 700, '#123'), small)).rejects.toMatchObject({ code: 'disk.quota' })
    expect(await server.framesOf(runId)).toEqual(['a.jpg'])
    await nothingHalf()
  })

  test.each([
    '_DSC1234.JPG',
    'a.jpg',
    'IMG 12 (copy).tif',
    'Ölkanne_3.png',
    'Cafe\u0301.jpg',
    'Kirche & Turm #3 [final], 1.jpg',
    "it's.png",
    '石.jpg',
    'с поля.jpg',
    '.hidden.jpg',
  ])('%s is kept and shown as it is', async (name) => {
    const runId = await server.newRun()
    const contents = await picture()
    const frame = await server.add(runId, name, contents)
    expect(frame.name).toBe(name)
    expect(await server.framesOf(runId)).toEqual([name])
    expect((await readFile(server.context.store.folders.frame(runId, frame.file))).equals(contents)).toBe(true)
  })

  test.each(['', 'a/b.jpg', 'a\\b.jpg', 'a\0.jpg', 'a\nb.jpg', '.', '..', 'x'.repeat(300)])('%j is no name', (name) =>
    expect(() => plainName(name)).toThrow(refusedWith('frame.name')),
  )

  test('names that some disks keep otherwise are stored under one of ours', () => {
    expect(storedName('IMG_1.JPG', 'u', [])).toBe('IMG_1.JPG')
    expect(storedName('img_1.jpg', 'u', [{ file: 'IMG_1.JPG' }])).toBe('u.jpg')
    for (const name of ['Ö.jpg', 'con.jpg', '.a.png', 'a,b.tif', 'trailing.jpg ']) expect(storedName(name, 'u', [])).toMatch(/^u/)
  })

  test('two names that differ in capitals only are two frames', async () => {
    const runId = await server.newRun()
    const [a, b] = [await picture(), await picture(60, 40, '#123')]
    const files = [await server.add(runId, 'IMG_1.JPG', a), await server.add(runId, 'img_1.jpg', b)]
    expect(new Set(files.map(({ file }) => file.toLowerCase())).size).toBe(2)
    expect(await server.framesOf(runId)).toEqual(['IMG_1.JPG', 'img_1.jpg'])
  })

  test('hostile EXIF is ignored, not fatal', async () => {
    expect(await readTakenWith(Buffer.from('Exif\0\0garbage that is no TIFF structure'))).toBeNull()
    expect(await readTakenWith(undefined)).toBeNull()
  })
})

describe('a folder on this machine', () => {
  test('inside the root is imported in the order of the names', async () => {
    const runId = await server.newRun()
    await mkdir(path.join(server.folder, 'import', 'card'), { recursive: true })
    for (const [name, colour] of Object.entries({ 'f10.jpg': '#123', 'f2.jpg': '#321', 'notes.txt': '#213' }))
      await writeFile(path.join(server.folder, 'import', 'card', name), await picture(60, 40, colour))
    expect(await server.addFolder(runId, 'card')).toEqual({ taken: 2, refused: [] })
    expect(await server.framesOf(runId)).toEqual(['f2.jpg', 'f10.jpg'])
  })

  test('outside it, by path, by dots or by a link, is refused', async () => {
    const runId = await server.newRun()
    await symlink('/etc', path.join(server.folder, 'import', 'way-out'))
    for (const name of ['/etc', '../..', 'way-out', 'nowhere'])
      await expect(server.addFolder(runId, name)).rejects.toMatchObject({ code: 'folder.outside' })
    await writeFile(path.join(server.folder, 'import', 'file.txt'), '')
    await expect(server.addFolder(runId, 'file.txt')).rejects.toMatchObject({ code: 'folder.isFile' })
    await expect(server.addFolder(runId, '.')).rejects.toMatchObject({ code: 'folder.noPictures' })
  })
})

describe('shoots', () => {
  test('are listed with state, plan and cover', async () => {
    const shootId = await server.newShoot()
    expect(await server.context.shoots.list()).toMatchObject({
      shoots: [{ id: shootId, title: demo.title, state: 'planned', cover: null, frameCount: 0 }],
    })
    const runId = await server.context.shoots.addRun(shootId, 'imported')
    const frame = await server.add(runId, 'a.jpg', await picture())
    expect(await server.context.shoots.list()).toMatchObject({ shoots: [{ state: 'shot', cover: { kind: 'frame', id: frame.id }, frameCount: 1 }] })
  })

  test('a plan to infinity survives the database', async () => {
    const shootId = await server.context.shoots.create(GARDEN)
    const [{ plan }] = (await server.context.shoots.list()).shoots
    expect(plan).toMatchObject({ frameCount: 4, hyperfocal_mm: expect.any(Number) })
    expect((await server.context.shoots.detail(shootId)).planRequest!.subject).toMatchObject({ far_mm: Infinity })
  })

  test('a shoot that does not exist is said, not crashed on', async () => {
    await expect(server.context.shoots.detail(99)).rejects.toMatchObject({ code: 'shoot.gone' })
    await expect(server.context.shoots.replan(99, { title: 'x', subject: '', scene: 'fossil', plan: demo.plan })).rejects.toMatchObject({
      code: 'shoot.gone',
    })
  })

  test('the simulated camera shoots a range from the near edge on, framed in the middle of it', () => {
    const plan = planSeries(completePlanRequest(GARDEN.plan))
    const { camera, positions_mm } = simulationOf('garden', GARDEN.plan, plan, 1)
    const near_mm = (GARDEN.plan.subject as { near_mm: number }).near_mm
    expect(positions_mm.map((mm) => mm + near_mm)).toEqual(plan.frames.map(({ focusDistance_mm }) => expect.closeTo(focusDistance_mm!, 6)))
    const middle = plan.frames[Math.ceil(plan.frameCount / 2) - 1].focusDistance_mm!
    expect(camera.magnification).toBeCloseTo(24 / (middle - 24), 9)
  })

  test('with the ring it frames the near edge as planned, so that what lies behind is smaller; a rail frames every plane alike', () => {
    const request = completePlanRequest(NIB.plan)
    const { focalLength_mm, magnification } = request.optics as { focalLength_mm: number; magnification: number }
    const plan = planSeries(request)
    const middle = plan.frames[Math.ceil(plan.frameCount / 2) - 1].position_mm!
    const { camera } = simulationOf('nib', request, plan, 1)
    expect(focalLength_mm / camera.magnification).toBeCloseTo(focalLength_mm / magnification + middle, 6)
    const onRail = { ...request, mover: { kind: 'rail' as const, resolution_mm: 0.01 } }
    expect(simulationOf('nib', onRail, planSeries(onRail), 1).camera.magnification).toBe(magnification)
  })

  test('it has no objective, and says so', () => {
    const optics = { kind: 'objective', designMagnification: 5, designTube_mm: 200, tube_mm: 200, numericalAperture: 0.14 } as const
    expect(() => simulationOf('fossil', { ...demo.plan, optics }, planSeries(completePlanRequest(demo.plan)), 1)).toThrow(
      expect.objectContaining({ code: 'device.objective' }),
    )
  })
})

describe('the environment', () => {
  test('a bad quota is refused by name', () => {
    expect(() => readEnvironment({ NITIDUS_QUOTA_MB: 'plenty' } as unknown as NodeJS.ProcessEnv)).toThrow('NITIDUS_QUOTA_MB')
  })
})
