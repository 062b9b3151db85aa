import { execFileSync, spawn, spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import sharp from 'sharp'

const COMMAND = path.resolve('dist/nitidus.mjs')
const MOMENTS = 50

let folder: string
const at = (...parts: string[]) => path.join(folder, ...parts)

beforeAll(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'kills-'))
  writeFileSync(
    at('scene.json'),
    JSON.stringify({ scene: 'bristles', camera: { width_px: 360, height_px: 240, mover: 'ring' }, positions_mm: [0, 2, 4, 6] }),
  )
  execFileSync(process.execPath, [COMMAND, 'simulate', at('scene.json'), '--out', at('frames')])
})
afterAll(() => rmSync(folder, { recursive: true }))

const sums = () =>
  readdirSync(at('frames')).map(
    (name) =>
      `${name} ${createHash('sha256')
        .update(readFileSync(at('frames', name)))
        .digest('hex')}`,
  )

/** Nothing is looked for that moved: the less a run works, the more of its moments are those in which it writes. */
const still = ['--local-warp', 'never', '--moving', 'blend', '--dust', 'off']
const files = () => ['--out', at('r.tif'), '--report', at('r.json'), '--depth', at('d.png'), '--relief', at('r.ply')]
const args = () => [COMMAND, 'fuse', at('frames'), ...still, ...files()]

/** Starts a fuse and kills it after so long; answers whether it ended before that. */
function killedAfter(ms: number): Promise<boolean> {
  return new Promise((resolve) => {
    const child = spawn(process.execPath, args(), { stdio: 'ignore' })
    const timer = setTimeout(() => child.kill('SIGKILL'), ms)
    child.once('exit', (code) => {
      clearTimeout(timer)
      resolve(code === 0)
    })
  })
}

test(`killed at ${MOMENTS} random moments, it leaves originals as they were and no result that is not whole`, async () => {
  const before = sums()
  const start = performance.now()
  execFileSync(process.execPath, args())
  let whole_ms = performance.now() - start
  const size = readFileSync(at('r.tif')).length
  let [state, ended] = [20261125, 0]
  for (let k = 0; k < MOMENTS; k++) {
    for (const name of ['r.tif', 'r.json', 'd.png', 'r.ply']) rmSync(at(name), { force: true })
    state = (state * 16807) % 2147483647
    if (await killedAfter((state / 2147483647) * whole_ms * 1.1)) {
      ended++
      // The machine was slower when the whole was timed than it is now.
      whole_ms *= 0.9
    }
    if (existsSync(at('r.tif'))) {
      expect(readFileSync(at('r.tif'))).toHaveLength(size)
      await sharp(at('r.tif')).stats()
    }
    if (existsSync(at('d.png'))) await sharp(at('d.png')).stats()
    if (existsSync(at('r.json'))) expect(JSON.parse(readFileSync(at('r.json'), 'utf8')).frames).toHaveLength(4)
    if (existsSync(at('r.ply'))) expect(readFileSync(at('r.ply'), 'utf8').endsWith('\n')).toBe(true)
  }
  expect(sums()).toEqual(before)
  // Most moments were before the end, or this would have shown nothing.
  expect(ended).toBeLessThan(MOMENTS / 2)
  execFileSync(process.execPath, args())
  expect(readFileSync(at('r.tif'))).toHaveLength(size)
})

test('a job ends with the application that started it', async () => {
  const job = { version: 1, kind: 'fuse', frames: [1, 2, 3, 4].map((k) => ({ name: `frame_00${k}.jpg`, file: at('frames', `frame_00${k}.jpg`) })) }
  const settings = { style: 'auto', bits: 16, crop: 'common', register: true, localWarp: 'never' }
  writeFileSync(at('job.json'), JSON.stringify({ ...job, settings, outputs: { out: at('orphan.tif'), report: at('orphan.json') } }))
  const parent = `
    const child = require('node:child_process').spawn(process.execPath, ${JSON.stringify([COMMAND, 'run', at('job.json'), '--progress'])},
      { stdio: ['ignore', 'ignore', 'pipe', 'ipc'] })
    child.stderr.once('data', () => { console.log(child.pid); process.kill(process.pid, 'SIGKILL') })`
  const { stdout } = spawnSync(process.execPath, ['-e', parent], { encoding: 'utf8' })
  const pid = Number(stdout)
  expect(pid).toBeGreaterThan(0)
  const isAlive = () => {
    try {
      return process.kill(pid, 0)
    } catch {
      return false
    }
  }
  for (let waited_ms = 0; isAlive() && waited_ms < 10_000; waited_ms += 20) await new Promise((resolve) => setTimeout(resolve, 20))
  expect(isAlive()).toBe(false)
  expect(existsSync(at('orphan.tif'))).toBe(false)
})

test('memory that runs out ends the run with a sentence and leaves nothing behind; with enough of it the same run succeeds', () => {
  const before = sums()
  const run = (most_MB: string) => spawnSync(process.execPath, args(), { encoding: 'utf8', env: { ...process.env, NITIDUS_MEMORY_MB: most_MB } })
  for (const name of ['r.tif', 'r.json', 'd.png', 'r.ply']) rmSync(at(name), { force: true })
  // What killed runs were writing may lie there still, under names of its own.
  const there = readdirSync(folder)
  const short = run('4')
  expect(short.stderr.trim()).toMatch(/^[^\n]+ \[memory\.tooLittle\]$/)
  expect(short.status).toBe(2)
  expect(readdirSync(folder)).toEqual(there)
  expect(sums()).toEqual(before)
  expect(run('512')).toMatchObject({ status: 0 })
  expect(existsSync(at('r.tif'))).toBe(true)
  const strange = run('much')
  expect(strange.stderr).toContain('[memory.setting]')
  expect(strange.status).toBe(2)
})
