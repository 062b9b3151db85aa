import { spawn, type ChildProcessWithoutNullStreams } from 'node:child_process'
import { existsSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { createInterface } from 'node:readline'
import sharp from 'sharp'
import type { StandInSetup } from '@/core/devices'
import type { DeviceReply } from '@/schemas'

const SETUP: StandInSetup = {
  scene: 'fossil',
  seed: 4,
  camera: { sensorWidth_mm: 36, width_px: 240, height_px: 160, focalLength_mm: 100, fNumber: 5.6, magnification: 1, mover: 'rail' },
  positions_mm: [0, 2, 4, 6, 8],
  settings: { fNumber: 5.6, shutter_s: 0.5, iso: 100, sensorShift: false },
  batteryFrames: 3,
  cardFrames: 100,
  backlash_mm: 0,
  faults: [],
}

type Answer = { id: number; ok?: DeviceReply & { position_mm?: number }; error?: string }

/** The stand-ins in a process of their own, spoken to as the server does. */
class Spoken {
  private readonly child: ChildProcessWithoutNullStreams
  private readonly waiting = new Map<number, (answer: Answer) => void>()
  private asked = 0
  /** The numbers of calls in the order in which they were answered. */
  readonly order: number[] = []

  constructor() {
    this.child = spawn(process.execPath, ['dist/nitidus.mjs', 'stand-in'])
    createInterface({ input: this.child.stdout }).on('line', (line) => {
      const answer = JSON.parse(line) as Answer
      this.order.push(answer.id)
      this.waiting.get(answer.id)?.(answer)
    })
  }

  ask(call: object): Promise<Answer> {
    const id = ++this.asked
    return new Promise((resolve) => {
      this.waiting.set(id, resolve)
      this.child.stdin.write(`${JSON.stringify({ id, ...call })}\n`)
    })
  }

  /** Nothing more is asked; answers the exit code. */
  end(): Promise<number | null> {
    this.child.stdin.end()
    return new Promise((resolve) => this.child.once('close', resolve))
  }

  kill(): void {
    this.child.kill('SIGKILL')
  }
}

let folder: string
let devices: Spoken
beforeEach(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'stand-in-'))
  devices = new Spoken()
})
afterEach(() => {
  devices.kill()
  rmSync(folder, { recursive: true })
})

test('devices that were not opened say so, and are asked on', async () => {
  expect(await devices.ask({ do: 'state' })).toEqual({ id: 1, error: { code: 'device.notOpen', text: expect.any(String) } })
  const { ok } = await devices.ask({ do: 'open', setup: SETUP })
  expect(ok).toMatchObject({ camera: { fNumber: 5.6, battery_percent: 100, cardFrames: 100, exposed: 0 }, rail: { position_mm: 0 } })
  expect(ok!.flash).toBeUndefined()
})

test('a frame is a file with what went into it, and the plane it was focused on', async () => {
  await devices.ask({ do: 'open', setup: SETUP })
  await devices.ask({ do: 'set', change: { fNumber: 8, iso: 200 } })
  await devices.ask({ do: 'goTo', position_mm: 4 })
  const to = path.join(folder, 'frame.jpg')
  const { ok } = await devices.ask({ do: 'press', to })
  expect(ok!.position_mm).toBeCloseTo(4, 2)
  expect(ok!.camera).toMatchObject({ exposed: 1, cardFrames: 99, battery_percent: 67 })
  const { width, height, exif } = await sharp(to).metadata()
  expect([width, height]).toEqual([240, 160])
  expect(exif!.toString('latin1')).toContain('Nitidus simulator')
  // The scene fills the picture: neither black nor one tone.
  const { channels } = await sharp(to).stats()
  expect(channels[1].mean).toBeGreaterThan(30)
  expect(channels[1].stdev).toBeGreaterThan(10)
})

test('the scene is made ready meanwhile: looking goes on, and then the first frame comes at once', async () => {
  // Large enough that making it ready takes longer than a look.
  const { ok: opened } = await devices.ask({ do: 'open', setup: { ...SETUP, camera: { ...SETUP.camera, width_px: 900, height_px: 600 } } })
  expect(opened!.ready).toBe(false)
  const looks: boolean[] = []
  while (looks.at(-1) !== true) {
    const { ok } = await devices.ask({ do: 'look', look: { spot: { x: 0.5, y: 0.5 }, magnifier: false } })
    expect(ok!.contrast).toBeGreaterThan(0)
    expect(ok!.jpeg!.length).toBeGreaterThan(1000)
    looks.push(ok!.ready)
  }
  expect(looks.length).toBeGreaterThan(1)
  const { ok } = await devices.ask({ do: 'press', to: path.join(folder, 'frame.jpg') })
  expect(ok!.ready).toBe(true)
})

test('one thing is done after the other, in the order in which they were asked', async () => {
  const calls = [
    { do: 'open', setup: SETUP },
    { do: 'goTo', position_mm: 2 },
    { do: 'press', to: path.join(folder, '1.jpg') },
    { do: 'move', position_mm: 5 },
    { do: 'state' },
  ]
  const answers = await Promise.all(calls.map((call) => devices.ask(call)))
  expect(devices.order).toEqual([1, 2, 3, 4, 5])
  expect(answers.map(({ ok }) => ok!.rail!.position_mm)).toEqual([0, 2, 2, 5, 5])
})

test('what a device refuses is its own sentence; a full supply lets it go on', async () => {
  await devices.ask({ do: 'open', setup: SETUP })
  const press = (name: string) => devices.ask({ do: 'press', to: path.join(folder, name) })
  for (const name of ['1.jpg', '2.jpg', '3.jpg']) expect((await press(name)).error).toBeUndefined()
  expect((await press('4.jpg')).error).toMatchObject({ code: 'device.battery' })
  expect(existsSync(path.join(folder, '4.jpg'))).toBe(false)
  expect((await devices.ask({ do: 'supply', what: 'battery' })).ok!.camera.battery_percent).toBe(100)
  expect((await press('4.jpg')).ok!.camera.exposed).toBe(4)
})

test('a bench without a rail has none to move, and a file that cannot be written is reported', async () => {
  await devices.ask({ do: 'open', setup: { ...SETUP, camera: { ...SETUP.camera, mover: 'ring' } } })
  expect((await devices.ask({ do: 'move', position_mm: 1 })).error).toMatchObject({ code: 'device.noRail' })
  expect((await devices.ask({ do: 'drive', steps: 20 })).ok!.camera.focusStep).not.toBe(0)
  expect((await devices.ask({ do: 'press', to: path.join(folder, 'nowhere', 'frame.jpg') })).error).toBeTruthy()
})

test('it ends by itself when nothing more is asked', async () => {
  await devices.ask({ do: 'open', setup: SETUP })
  expect(await devices.end()).toBe(0)
})
