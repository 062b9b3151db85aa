import { spawnSync } from 'node:child_process'
import { copyFileSync, existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import sharp from 'sharp'

const COMMAND = path.resolve('dist/nitidus.mjs')

let folder: string
beforeAll(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'command-'))
})
afterAll(() => rmSync(folder, { recursive: true }))

const at = (...parts: string[]) => path.join(folder, ...parts)

function nitidus(args: string[], input = '') {
  const { status, stdout, stderr } = spawnSync(process.execPath, [COMMAND, ...args], { input, encoding: 'utf8' })
  return { status, stdout, stderr }
}

/** Exit code 2 and one line that holds `words`. */
function expectRefused({ status, stderr, stdout }: ReturnType<typeof nitidus>, words: string) {
  expect(stderr).toContain(words)
  expect(stderr.trim().split('\n')).toHaveLength(1)
  expect(stdout).toBe('')
  expect(status).toBe(2)
}

const request = {
  camera: { sensorWidth_mm: 36, sensorHeight_mm: 24, pixelsWide: 6000, rawSize_MB: 45 },
  optics: { kind: 'lens', focalLength_mm: 100, fNumber: 8, pupilRatio: 1, magnification: 1 },
  sharpness: { kind: 'coc', coc_mm: 0.03 },
  diffraction: true,
  wavelength_nm: 550,
  subject: { kind: 'depth', depth_mm: 12 },
  mover: { kind: 'rail', resolution_mm: 0.01 },
  overlap: 0.3,
  leadIn_slices: 1,
  runOut_slices: 1,
}

const scene = {
  scene: 'bristles',
  seed: 2,
  camera: { width_px: 240, height_px: 160, fNumber: 5.6, mover: 'ring' },
  positions_mm: [0, 2, 4, 6],
}

describe('plan', () => {
  const plan = (change: object) => nitidus(['plan', '-'], JSON.stringify({ ...request, ...change }))

  test('answers the agreed figures', () => {
    const { status, stdout } = plan({})
    expect(status).toBe(0)
    expect(JSON.parse(stdout)).toMatchObject({
      workingFNumber: 16,
      stride_mm: 0.62,
      frameCount: 21,
      storage_MB: 945,
      singleFrame: { possible: false },
    })
  })

  test('reads a file, and writes infinity as null', () => {
    writeFileSync(
      at('range.json'),
      JSON.stringify({
        ...request,
        optics: { ...request.optics, focalLength_mm: 24, magnification: undefined },
        subject: { kind: 'range', near_mm: 500, far_mm: null, from: 'sensor' },
        mover: { kind: 'ring' },
      }),
    )
    const { stdout } = nitidus(['plan', at('range.json')])
    const { frames, hyperfocal_mm } = JSON.parse(stdout)
    expect(hyperfocal_mm).toBeGreaterThan(2000)
    expect(frames.at(-1).far_mm).toBeNull()
    expect(frames[0].scaleDistance_mm).toBeGreaterThan(frames[0].focusDistance_mm)
  })

  test('plans an objective, a print, pixels, and the classical figures', () => {
    const answer = (change: object) => JSON.parse(plan(change).stdout)
    const objective = { kind: 'objective', designMagnification: 10, designTube_mm: 200, tube_mm: 100, numericalAperture: 0.25 }
    expect(answer({ optics: objective, subject: { kind: 'depth', depth_mm: 0.2 }, mover: { kind: 'rail', resolution_mm: 0.001 } })).toMatchObject({
      magnification: 5,
      workingFNumber: 10,
    })
    // 500 mm × tan 1′ over an enlargement of 600 / 36.
    expect(answer({ sharpness: { kind: 'print', width_mm: 600, viewingDistance_mm: 500 } }).coc_mm).toBeCloseTo(0.00873, 5)
    expect(answer({ sharpness: { kind: 'pixels', count: 2 } }).coc_mm).toBeCloseTo(0.012, 9)
    expect(answer({ diffraction: false })).toMatchObject({ depthOfField_mm: expect.closeTo(0.96, 9), diffraction_mm: 0 })
  })

  test('tells the time of a frame from all that goes into it', () => {
    const timing = { settle_s: 2, delay_s: 1, exposure_s: 0.5, exposuresPerFrame: 4, interval_s: 3, recycling_s: 1.5, write_s: 1 }
    const { duration_s, storage_MB, frameCount } = JSON.parse(plan({ timing }).stdout)
    expect(duration_s).toBeCloseTo(frameCount * (2 + 1 + 2 + 6 + 1), 9)
    expect(storage_MB).toBe(frameCount * 4 * 45)
  })

  test.each([
    ['magnification', { optics: { ...request.optics, magnification: 0 } }],
    ['magnification', { optics: { ...request.optics, magnification: -1 } }],
    ['limit is 2000', { subject: { kind: 'depth', depth_mm: 1e8 } }],
    [
      'nearest point must be beyond',
      { optics: { ...request.optics, magnification: undefined }, subject: { kind: 'range', near_mm: 50, far_mm: 500 } },
    ],
  ])('refuses with one line: %s', (words, change) => expectRefused(plan(change), words))

  test('refuses what is no JSON, no file, no verb', () => {
    expectRefused(nitidus(['plan', '-'], '{'), 'not JSON')
    expectRefused(nitidus(['plan', at('nowhere.json')]), 'cannot be read')
    expectRefused(nitidus(['dance']), 'Usage')
    expectRefused(nitidus(['survey', folder]), 'holds no JPEG')
    expectRefused(nitidus(['survey']), 'Usage')
    expectRefused(nitidus(['survey', folder, '--mover', 'cart']), 'rail or ring')
    expectRefused(nitidus([]), 'Usage')
    expectRefused(nitidus(['fuse', folder, '--out', 'x.png', '--sparkle']), 'sparkle')
  })
})

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
  }, 60_000)

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
    // The picture after the first frame is there when the second is told of.
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
    expectRefused(fuse('--relief', at('relief.stl')), 'must end in .ply or .obj')
    expectRefused(fuse('--pixel-mm=-1'), 'above 0')
    writeFileSync(at('p.json'), JSON.stringify({ ...positions, 'frame_003.jpg': 1 }))
    expectRefused(fuse(), 'do not run along the frames')
    writeFileSync(at('p.json'), '{}')
    expectRefused(fuse(), 'no position in mm for frame_001.jpg')
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
    expectRefused(nitidus(['fuse', at('tagged'), '--out', at('t.tif')]), 'different colour profiles')
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
    expectRefused(nitidus(['fuse', at('frames'), '--out', at('n.png'), '--frames', 'cat.jpg']), 'holds no cat.jpg')
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
    expectRefused(fuse('none'), 'holds no JPEG')
    expectRefused(fuse('one'), 'one frame only')
    expectRefused(fuse('sizes'), 'must have one size')
    expectRefused(fuse('cut'), 'b.jpg is cut short')
    expectRefused(fuse('text'), 'b.jpg is not a picture')
    expectRefused(fuse('frames', ['--reference', '9']), 'has 4 frames')
    expectRefused(nitidus(['fuse', at('frames'), '--out', at('r.gif')]), 'must end in')
    expectRefused(nitidus(['fuse', at('frames'), '--out', at('nofolder', 'r.png')]), 'cannot be read or written')
    for (const name of ['none', 'one', 'sizes', 'cut', 'text']) expect(existsSync(at(name, 'result.tif'))).toBe(false)
  })
})
