import { copyFileSync, existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import sharp from 'sharp'
import type { BendsFile } from '@/core/formats'
import { expectRefused, nitidus } from './testCommand'

let folder: string
beforeAll(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'command-'))
})
afterAll(() => rmSync(folder, { recursive: true }))

const at = (...parts: string[]) => path.join(folder, ...parts)

const scene = {
  scene: 'bristles',
  seed: 2,
  camera: { width_px: 240, height_px: 160, fNumber: 5.6, mover: 'ring' },
  positions_mm: [0, 2, 4, 6],
}

describe('simulate and fuse', () => {
  beforeAll(() => {
    writeFileSync(at('scene.json'), JSON.stringify(scene))
    const made = nitidus(['simulate', at('scene.json'), '--out', at('frames'), '--truth', '--progress'])
    expect(
      made.stderr
        .trim()
        .split('\n')
        .map((line) => JSON.parse(line).stage),
    ).toEqual(['scene', 'frame', 'frame', 'frame', 'frame'])
  })

  test('frames are JPEG files with EXIF, the truth beside them', async () => {
    expect(readdirSync(at('frames')).sort()).toEqual(['frame_001.jpg', 'frame_002.jpg', 'frame_003.jpg', 'frame_004.jpg', 'truth', 'truth.json'])
    const { format, width, exif } = await sharp(at('frames', 'frame_002.jpg')).metadata()
    expect([format, width]).toEqual(['jpeg', 240])
    expect(exif!.toString('latin1')).toContain('2026:05:11')
    const truth = JSON.parse(readFileSync(at('frames', 'truth.json'), 'utf8'))
    expect(truth.reference).toBe('frame_002.jpg')
    expect(truth.frames[1]).toMatchObject({ scale: 1, position_mm: 2 })
    expect(truth.frames[0].scale).toBeGreaterThan(1.005)
  })

  test('moved parts are followed where any moved, and how is written', () => {
    writeFileSync(at('breeze.json'), JSON.stringify({ ...scene, breeze_mm: 1 }))
    nitidus(['simulate', at('breeze.json'), '--out', at('breeze')])
    const flags = ['--bends', at('bends.json'), '--report', at('bent.json')]
    expect(nitidus(['fuse', at('breeze'), '--out', at('bent.png'), ...flags]).status).toBe(0)
    const bends = JSON.parse(readFileSync(at('bends.json'), 'utf8')) as BendsFile
    const report = JSON.parse(readFileSync(at('bent.json'), 'utf8'))
    expect(report.settings.localWarp).toBe('whereMoved')
    // The reference is what the others are bent to.
    expect(Object.keys(bends.frames)).not.toContain(report.reference)
    expect(Object.keys(bends.frames).length).toBeGreaterThan(0)
    for (const { file, bent_px } of report.frames)
      expect(bent_px ?? 0).toBeCloseTo(Math.max(0, ...(bends.frames[file]?.x_px ?? []).map((x, k) => Math.hypot(x, bends.frames[file].y_px[k]))), 1)
  })

  test('fuse writes picture, report, maps, and tells its progress', async () => {
    const { status, stderr } = nitidus([
      'fuse',
      at('frames'),
      '--out',
      at('r.tif'),
      '--report',
      at('r.json'),
      '--source-map',
      at('s.png'),
      '--depth',
      at('d.png'),
      '--so-far',
      at('so-far'),
      '--progress',
    ])
    expect(status).toBe(0)
    const events = stderr
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line))
    const stages = events.map(({ stage }) => stage)
    // The picture after the first frame is there when the second is reported.
    expect(events.filter(({ stage, soFar }) => stage === 'fuse' && soFar >= 1).map(({ frame }) => frame)).toEqual([2, 3, 4])
    expect(events.find(({ stage }) => stage === 'encode').soFar).toBeGreaterThanOrEqual(1)
    expect(await sharp(at('so-far', 'picture.jpg')).metadata()).toMatchObject({ width: 120, height: 80 })
    expect(await sharp(at('so-far', 'depth.png')).metadata()).toMatchObject({ width: 120, height: 80, depth: 'uchar' })
    expect(new Set(stages)).toEqual(new Set(['register', 'fuse', 'encode', 'done']))
    const report = JSON.parse(readFileSync(at('r.json'), 'utf8'))
    expect(report).toMatchObject({ style: 'auto', reference: 'frame_002.jpg' })
    expect(report.frames).toHaveLength(4)
    expect(report.frames.reduce((sum: number, { share_percent }: { share_percent: number }) => sum + share_percent, 0)).toBeCloseTo(100, 0)
    const picture = await sharp(at('r.tif')).metadata()
    expect(picture).toMatchObject({ width: report.crop.width, height: report.crop.height, depth: 'ushort' })
    expect((await sharp(at('d.png')).metadata()).depth).toBe('ushort')
    expect((await sharp(at('s.png')).metadata()).width).toBe(report.crop.width)
  })

  test('depth in mm where positions are known, a relief and confidence', async () => {
    const positions = { 'frame_001.jpg': 0, 'frame_002.jpg': 2, 'frame_003.jpg': 4, 'frame_004.jpg': 6 }
    writeFileSync(at('p.json'), JSON.stringify(positions))
    const asked = ['--positions', at('p.json'), '--pixel-mm', '0.1', '--depth', at('mm.png'), '--confidence', at('c.png')]
    const fuse = (...more: string[]) => nitidus(['fuse', at('frames'), '--out', at('p.png'), '--report', at('p-report.json'), ...asked, ...more])
    expect(fuse('--relief', at('relief.ply')).status).toBe(0)
    const report = JSON.parse(readFileSync(at('p-report.json'), 'utf8'))
    expect(report.depth).toEqual({ unit: 'mm', at0: 0, at65535: 6 })
    expect((await sharp(at('mm.png')).metadata()).depth).toBe('ushort')
    expect(await sharp(at('c.png')).metadata()).toMatchObject({ depth: 'uchar', width: report.crop.width })
    const ply = readFileSync(at('relief.ply'), 'utf8')
    expect(ply).toContain('comment Nitidus relief, x, y and z in mm')
    expect(ply.split('\n')).toContain(`element vertex ${report.crop.width * report.crop.height}`)
    expect(fuse('--relief', at('relief.obj')).status).toBe(0)
    expect(readFileSync(at('relief.obj'), 'utf8')).toMatch(/^f \d+ \d+ \d+$/m)
    expectRefused(fuse('--relief', at('relief.stl')), 'command.reliefEnding')
    expectRefused(fuse('--pixel-mm=-1'), 'command.pixelSize')
    writeFileSync(at('p.json'), JSON.stringify({ ...positions, 'frame_003.jpg': 1 }))
    expectRefused(fuse(), 'series.positionOrder')
    writeFileSync(at('p.json'), '{}')
    expectRefused(fuse(), 'series.noPosition')
  })

  test('the colour profile of the frames is carried over, and frames of several are refused', async () => {
    mkdirSync(at('tagged'))
    for (const k of [1, 2, 3])
      await sharp(at('frames', `frame_00${k}.jpg`))
        .withIccProfile('p3')
        .toFile(at('tagged', `f${k}.png`))
    expect(nitidus(['fuse', at('tagged'), '--out', at('t.tif')]).status).toBe(0)
    const [from, to] = await Promise.all([at('tagged', 'f1.png'), at('t.tif')].map((file) => sharp(file).metadata()))
    expect(to.icc!.equals(from.icc!)).toBe(true)
    copyFileSync(at('frames', 'frame_004.jpg'), at('tagged', 'f4.jpg'))
    expectRefused(nitidus(['fuse', at('tagged'), '--out', at('t.tif')]), 'frame.profile')
  })

  test('survey answers order, coverage and roles', () => {
    const { status, stdout, stderr } = nitidus(['survey', at('frames'), '--mover', 'ring', '--progress'])
    expect(status).toBe(0)
    expect(stderr.trim().split('\n')).toHaveLength(5)
    const report = JSON.parse(stdout)
    expect(report.frames.map(({ file }: { file: string }) => file)).toEqual([1, 2, 3, 4].map((k) => `frame_00${k}.jpg`))
    expect(report).toMatchObject({ order: 'near-to-far', coverage: { gaps: [] }, exposure: { spread_ev: expect.any(Number) } })
    expect(['reached', 'short']).toContain(report.coverage.farEnd)
  })

  test('fuse takes the frames that are named, in their order', () => {
    const { status } = nitidus([
      'fuse',
      at('frames'),
      '--out',
      at('n.png'),
      '--report',
      at('n.json'),
      '--frames',
      'frame_003.jpg,frame_001.jpg,frame_002.jpg',
    ])
    expect(status).toBe(0)
    const { frames, reference } = JSON.parse(readFileSync(at('n.json'), 'utf8'))
    expect(frames.map(({ file }: { file: string }) => file)).toEqual(['frame_003.jpg', 'frame_001.jpg', 'frame_002.jpg'])
    expect(reference).toBe('frame_001.jpg')
    expectRefused(nitidus(['fuse', at('frames'), '--out', at('n.png'), '--frames', 'cat.jpg']), 'series.noSuchFrame')
  })

  test('the same input gives the same bytes', () => {
    for (const name of ['one.png', 'two.png']) nitidus(['fuse', at('frames'), '--out', at(name)])
    expect(readFileSync(at('one.png')).equals(readFileSync(at('two.png')))).toBe(true)
  })

  test('options: reference, bits, crop and no registration', async () => {
    const { status } = nitidus([
      'fuse',
      at('frames'),
      '--out',
      at('o.png'),
      '--reference',
      '4',
      '--bits',
      '8',
      '--crop',
      'none',
      '--no-register',
      '--report',
      at('o.json'),
    ])
    expect(status).toBe(0)
    const report = JSON.parse(readFileSync(at('o.json'), 'utf8'))
    expect(report).toMatchObject({ reference: 'frame_004.jpg', crop: { x: 0, y: 0, width: 240, height: 160 } })
    expect(report.frames[0].scale).toBe(1)
    expect((await sharp(at('o.png')).metadata()).depth).toBe('uchar')
  })

  test('bad series are refused with one line and leave no result', async () => {
    const fuse = (name: string, args: string[] = []) => nitidus(['fuse', at(name), '--out', at(name, 'result.tif'), ...args])
    for (const name of ['none', 'one', 'sizes', 'cut', 'text']) mkdirSync(at(name))
    for (const name of ['one', 'sizes', 'cut', 'text']) copyFileSync(at('frames', 'frame_001.jpg'), at(name, 'a.jpg'))
    await sharp(at('frames', 'frame_002.jpg')).resize(100).toFile(at('sizes', 'b.jpg'))
    writeFileSync(at('cut', 'b.jpg'), readFileSync(at('frames', 'frame_002.jpg')).subarray(0, 4000))
    writeFileSync(at('text', 'b.jpg'), 'hello')
    expectRefused(fuse('none'), 'folder.noPictures')
    expectRefused(fuse('one'), 'series.oneFrame')
    expectRefused(fuse('sizes'), 'frame.size')
    expectRefused(fuse('cut'), 'picture.damaged')
    expectRefused(fuse('text'), 'picture.unreadable')
    expectRefused(fuse('frames', ['--reference', '9']), 'series.reference')
    expectRefused(nitidus(['fuse', at('frames'), '--out', at('r.gif')]), 'command.outEnding')
    expectRefused(nitidus(['fuse', at('frames'), '--out', at('nofolder', 'r.png')]), 'disk.denied')
    const maps = ['--source-map', at('nofolder', 's.png'), '--depth', at('nofolder', 'd.png')]
    expectRefused(nitidus(['fuse', at('frames'), '--out', at('maps.png'), ...maps]), 'disk.denied')
    for (const name of ['none', 'one', 'sizes', 'cut', 'text']) expect(existsSync(at(name, 'result.tif'))).toBe(false)
  })
})
