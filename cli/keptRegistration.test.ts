import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, utimesSync, writeFileSync } from 'node:fs'
import { spawn } from 'node:child_process'
import { tmpdir } from 'node:os'
import path from 'node:path'
import sharp from 'sharp'
import { nitidus } from './testCommand'

let folder: string
const at = (...parts: string[]) => path.join(folder, ...parts)
const KEPT = 'registered.bin'

beforeAll(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'kept-'))
  const camera = { width_px: 480, height_px: 320, mover: 'ring' }
  // Dust and a part that stirred: a registration that holds all it can.
  const scene = {
    scene: 'bristles',
    seed: 3,
    camera,
    positions_mm: [0, 1, 2, 3, 4, 5, 6, 7],
    faults: [
      { kind: 'dust', specks: 4 },
      { kind: 'stirred', frame: 5, frames: 2, shift_percent: 1.5 },
    ],
  }
  writeFileSync(at('scene.json'), JSON.stringify(scene))
  const { status, stderr } = nitidus(['simulate', at('scene.json'), '--out', at('frames')])
  if (status !== 0) throw new Error(stderr)
})
afterAll(() => rmSync(folder, { recursive: true }))

function job(settings: object, registered?: string): string {
  const names = readdirSync(at('frames')).filter((name) => name.endsWith('.jpg'))
  const frames = names.map((name) => ({ name, file: at('frames', name) }))
  const outputs = { out: at('out.tif'), report: at('report.json'), ...(registered && { registered: at(registered) }) }
  const whole = { style: 'auto', bits: 16, crop: 'common', register: true, localWarp: 'whereMoved', ...settings }
  writeFileSync(at('job.json'), JSON.stringify({ version: 1, kind: 'fuse', frames, settings: whole, outputs }))
  return at('job.json')
}

/** Fuses; answers the stages that were gone through, the samples, and what is said of each frame. */
async function fused(settings: object, registered?: string) {
  const { status, stderr } = nitidus(['run', job(settings, registered), '--progress'])
  if (status !== 0) throw new Error(stderr)
  const stages = new Set(stderr.trim().split('\n').map((line) => JSON.parse(line).stage as string)) // prettier-ignore
  const samples = await sharp(readFileSync(at('out.tif'))).raw({ depth: 'ushort' }).toBuffer() // prettier-ignore
  const { timings_s: _, peakMemory_MB: __, ...report } = JSON.parse(readFileSync(at('report.json'), 'utf8'))
  return { registered: stages.has('register'), samples, report }
}

test('a second fuse begins where the frames are registered, and gives the very same picture and report', async () => {
  const alone = await fused({})
  const first = await fused({}, KEPT)
  const second = await fused({}, KEPT)
  expect([first.registered, second.registered]).toEqual([true, false])
  for (const { samples, report } of [first, second]) {
    expect(samples.equals(alone.samples)).toBe(true)
    expect(report).toEqual(alone.report)
  }
  // Another style asks for no other registration.
  const lace = await fused({ style: 'lace' }, KEPT)
  expect(lace.registered).toBe(false)
  expect(lace.samples.equals((await fused({ style: 'lace' })).samples)).toBe(true)
})

test('what was stopped while it fused goes on there', async () => {
  rmSync(at(KEPT), { force: true })
  rmSync(at('out.tif'), { force: true })
  const child = spawn(process.execPath, ['dist/nitidus.mjs', 'run', job({}, KEPT), '--progress'], { stdio: ['ignore', 'ignore', 'pipe'] })
  await new Promise<void>((resolve) => {
    child.stderr.on('data', (text) => String(text).includes('"fuse"') && child.kill('SIGKILL'))
    child.once('exit', () => resolve())
  })
  expect(existsSync(at('out.tif'))).toBe(false)
  const again = await fused({}, KEPT)
  expect(again.registered).toBe(false)
  expect(again.samples.equals((await fused({})).samples)).toBe(true)
})

test('it is registered anew where it hangs on something else, or what was kept is damaged', async () => {
  await fused({}, KEPT)
  for (const settings of [{ reference: 2 }, { localWarp: 'never' }]) expect((await fused(settings, KEPT)).registered).toBe(true)
  await fused({}, KEPT)
  utimesSync(at('frames', 'frame_003.jpg'), new Date(), new Date(Date.now() - 5000))
  expect((await fused({}, KEPT)).registered).toBe(true)
  expect((await fused({}, KEPT)).registered).toBe(false)
  writeFileSync(at(KEPT), readFileSync(at(KEPT)).subarray(0, 900))
  const mended = await fused({}, KEPT)
  expect(mended.registered).toBe(true)
  expect(mended.samples.equals((await fused({}, KEPT)).samples)).toBe(true)
})
