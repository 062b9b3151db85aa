import { createInterface } from 'node:readline'
import type { Command } from 'commander'
import { screenJpeg, writePicture } from '@/codec'
import { StandIns, type CameraSettings, type Exposure, type Look, type StandInSetup } from '@/core/devices'
import { isRefusal, refusal, say } from '@/core/words'
import { DarkroomThreads } from './threads'

/** What can be asked of the stand-ins, one JSON object a line; each is answered by `{id, ok}` or `{id, error}`. */
export type StandInCall = { id: number } & (
  | { do: 'open'; setup: StandInSetup }
  | { do: 'state' }
  | { do: 'set'; change: Partial<CameraSettings> }
  | { do: 'drive'; steps: number }
  | { do: 'move'; position_mm: number }
  | { do: 'goTo'; position_mm: number }
  | { do: 'look'; look: Look }
  | { do: 'press'; hand?: boolean; /** File to write. */ to: string }
  | { do: 'supply'; what: 'battery' | 'card' }
)

export function addStandIn(program: Command): void {
  program
    .command('stand-in')
    .description('simulated camera, rail, flash and remote, driven over standard input and output, one JSON object a line')
    .action(standIn)
}

async function standIn(): Promise<void> {
  let devices: StandIns | undefined
  let threads: DarkroomThreads | undefined
  // One call after another: a device does one thing at a time.
  let last = Promise.resolve()
  const handle = async ({ id, ...call }: StandInCall) => {
    try {
      if (call.do === 'open') {
        await threads?.close()
        threads = new DarkroomThreads(call.setup)
        devices = new StandIns(call.setup, (order) => threads!.take(order))
        threads.prepare(devices.prospect)
      }
      if (!devices) throw refusal('device.notOpen')
      const ok = await answer(devices, call)
      console.log(JSON.stringify({ id, ok: { ...ok, ready: threads!.ready } }))
    } catch (error) {
      const { message: text } = error as Error
      console.log(JSON.stringify({ id, error: isRefusal(error) ? { code: error.code, text } : say('device.failed', { reason: text }) }))
    }
  }
  for await (const line of createInterface({ input: process.stdin })) {
    const call = JSON.parse(line) as StandInCall
    last = last.then(() => handle(call))
  }
  await last
  await threads?.close()
}

async function answer(devices: StandIns, call: Omit<StandInCall, 'id'> & { do: string }): Promise<object> {
  const ask = call as StandInCall
  const { camera, rail, flash, remote } = devices
  if (ask.do === 'set') await camera.set(ask.change)
  if (ask.do === 'drive') await camera.driveFocus(ask.steps)
  if (ask.do === 'goTo') await devices.goTo(ask.position_mm)
  if (ask.do === 'supply') await camera.supply(ask.what)
  if (ask.do === 'move') {
    if (!rail) throw refusal('device.noRail')
    await rail.moveTo(ask.position_mm)
  }
  const looked = ask.do === 'look' ? await look(devices, ask.look) : {}
  const pressed = ask.do === 'press' ? await press(await remote.press(ask.hand), devices, ask.to) : {}
  return { ...looked, ...pressed, camera: await camera.state(), rail: await rail?.state(), flash: await flash?.state() }
}

async function look({ camera }: StandIns, where: Look): Promise<object> {
  const { picture, contrast } = await camera.liveView(where)
  const jpeg = await screenJpeg(picture)
  return { contrast, jpeg: jpeg.toString('base64'), width: picture.width, height: picture.height }
}

async function press({ picture, settings, position_mm }: Exposure, devices: StandIns, to: string): Promise<object> {
  await writePicture(to, picture, {
    bits: 8,
    software: 'Nitidus simulator',
    taken: {
      body: 'Body A',
      taken_at: new Date().toISOString(),
      exposure_s: settings.shutter_s,
      fNumber: settings.fNumber,
      focalLength_mm: devices.focalLength_mm,
      iso: settings.iso,
    },
  })
  return { position_mm }
}
