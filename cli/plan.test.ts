import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { macro as request } from '@/core/plan/testRequests'
import { expectRefused, nitidus } from './testCommand'

let folder: string
beforeAll(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'command-'))
})
afterAll(() => rmSync(folder, { recursive: true }))

const at = (...parts: string[]) => path.join(folder, ...parts)

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
    ['value.number.greater', { optics: { ...request.optics, magnification: 0 } }],
    ['value.number.greater', { optics: { ...request.optics, magnification: -1 } }],
    ['plan.tooMany', { subject: { kind: 'depth', depth_mm: 1e8 } }],
    ['plan.tooNear', { optics: { ...request.optics, magnification: undefined }, subject: { kind: 'range', near_mm: 50, far_mm: 500 } }],
  ])('refuses with one line: %s', (code, change) => expectRefused(plan(change), code))

  test('help answers for the command and for each verb', () => {
    expect(nitidus(['--help'])).toMatchObject({ status: 0, stderr: '' })
    const { stdout } = nitidus(['--help'])
    for (const verb of ['plan', 'simulate', 'survey', 'split', 'fuse', 'backup', 'restore', 'run']) {
      expect(stdout).toContain(`  ${verb} `)
      expect(nitidus([verb, '--help'])).toMatchObject({ status: 0, stderr: '', stdout: expect.stringContaining(`Usage: nitidus ${verb}`) })
    }
  })

  test('refuses what is no JSON, no file, no verb', () => {
    expectRefused(nitidus(['plan', '-'], '{'), 'command.noJson')
    expectRefused(nitidus(['plan', at('nowhere.json')]), 'command.unreadable')
    expectRefused(nitidus(['dance']), 'command.usage')
    expectRefused(nitidus(['survey', folder]), 'folder.noPictures')
    expectRefused(nitidus(['survey']), 'command.usage')
    expectRefused(nitidus(['survey', folder, '--mover', 'cart']), 'command.mover')
    expectRefused(nitidus([]), 'command.usage')
    expectRefused(nitidus(['fuse', folder, '--out', 'x.png', '--sparkle']), 'command.usage')
  })
})
