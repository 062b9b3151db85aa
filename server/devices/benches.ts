import { movesCamera } from '@/core/movers'
import { randomUUID } from 'node:crypto'
import { createReadStream } from 'node:fs'
import { mkdir, rm } from 'node:fs/promises'
import path from 'node:path'
import type { StandInSetup } from '@/core/devices'
import { planSeries, completePlanRequest } from '@/core/plan'
import { usualFaults, randomStream, type Fault } from '@/core/simulate'
import { refusal } from '@/core/words'
import { type DeviceCall, type DeviceReply } from '@/schemas'
import type { Environment } from '../environment'
import type { PictureStore } from '../pictures'
import type { Shoots } from '../shoots'
import { simulationOf } from '../shoots/simulation'
import { StandInProcess } from './standInProcess'
import { tonesOf } from './tones'

interface Bench {
  process: StandInProcess
  idle: NodeJS.Timeout
  used_ms: number
  /** Exposures, one after the other: each takes the next number of the run. */
  last: Promise<unknown>
}

/** Devices that nobody has used for so long are switched off. */
const IDLE_ms = 10 * 60_000
/** Each bench is a process with a thread for every core and hundreds of megabytes. */
const MOST_BENCHES = 2
/** A bench that nobody has used for so long gives way to another. */
const GIVES_WAY_ms = 60_000
const BATTERY_FRAMES = 320
const CARD_MB = 8000

/** Simulated devices, one bench to a shoot, switched on from the screen. */
export class Benches {
  private readonly benches = new Map<number, Bench>()

  constructor(
    private readonly environment: Environment,
    private readonly store: PictureStore,
    private readonly shoots: Shoots,
  ) {}

  /** Does what a screen asks of the devices of a shoot. @throws Refusal with what to do, where it cannot. */
  async call(shootId: number, call: DeviceCall): Promise<DeviceReply> {
    if (call.do === 'open') return this.open(shootId, call.faults, call.width_px)
    const bench = this.benches.get(shootId)
    if (!bench || bench.process.ended) throw refusal('device.off')
    this.stayAwake(shootId, bench)
    if (call.do !== 'press') return bench.process.ask(call)
    const pressed = bench.last.then(() => this.press(shootId, bench, call))
    bench.last = pressed.catch(() => undefined)
    return pressed
  }

  stop(): void {
    for (const { process, idle } of this.benches.values()) {
      clearTimeout(idle)
      process.stop()
    }
    this.benches.clear()
  }

  private async open(shootId: number, faults: Fault['kind'][], width_px: number): Promise<DeviceReply> {
    const setup = await this.setupOf(shootId, faults, width_px)
    this.close(shootId)
    this.makeRoom()
    const idle = setTimeout(() => undefined, 0)
    const bench: Bench = { process: new StandInProcess(this.environment.engine), idle, used_ms: Date.now(), last: Promise.resolve() }
    this.benches.set(shootId, bench)
    this.stayAwake(shootId, bench)
    return bench.process.open(setup)
  }

  private stayAwake(shootId: number, bench: Bench): void {
    clearTimeout(bench.idle)
    bench.used_ms = Date.now()
    bench.idle = setTimeout(() => this.close(shootId), IDLE_ms)
    bench.idle.unref()
  }

  private close(shootId: number): void {
    const bench = this.benches.get(shootId)
    bench?.process.stop()
    clearTimeout(bench?.idle)
    this.benches.delete(shootId)
  }

  /** @throws Refusal where as many benches as there may be are in use. */
  private makeRoom(): void {
    for (const [shootId, { process }] of this.benches) if (process.ended) this.close(shootId)
    if (this.benches.size < MOST_BENCHES) return
    const [oldest] = [...this.benches].sort(([, a], [, b]) => a.used_ms - b.used_ms)
    if (Date.now() - oldest[1].used_ms < GIVES_WAY_ms) throw refusal('device.tooMany')
    this.close(oldest[0])
  }

  /** Devices that suit the plan: its lens and aperture, in shooting order, with the faults that are switched on. */
  private async setupOf(shootId: number, kinds: Fault['kind'][], width_px: number): Promise<StandInSetup> {
    const shoot = await this.shoots.detail(shootId)
    if (!shoot.planRequest) throw refusal('shoot.noPlan')
    const request = completePlanRequest(shoot.planRequest)
    const plan = planSeries(request)
    const seed = shootId * 101 + shoot.runs.length
    const far = shoot.sheet?.direction === 'far'
    // In shooting order from the start: the camera frames the middle one of them.
    const frames = far ? plan.frames.toReversed() : plan.frames
    const { camera, positions_mm } = simulationOf(shoot.scene, request, { ...plan, frames }, seed)
    const { rawSize_MB } = request.camera
    const light = request.timing.recycling_s > 0
    return {
      scene: shoot.scene,
      seed,
      camera: { ...camera, width_px, height_px: Math.round((width_px * 2) / 3) },
      positions_mm,
      settings: { fNumber: camera.fNumber, shutter_s: request.timing.exposure_s || 0.1, iso: 100, sensorShift: request.timing.exposuresPerFrame > 1 },
      ...(light && { recycling_s: request.timing.recycling_s }),
      batteryFrames: BATTERY_FRAMES,
      cardFrames: Math.floor(CARD_MB / rawSize_MB),
      backlash_mm: movesCamera(request.mover.kind) ? 0.04 : 0,
      faults: usualFaults(kinds, plan.frameCount, randomStream(seed)),
    }
  }

  /** Exposes a frame and takes it in, exactly as if it had been brought from a card. A test frame is only looked at. */
  private async press(
    shootId: number,
    bench: Bench,
    { hand, test, run = '' }: { hand?: boolean; test?: boolean; run?: string },
  ): Promise<DeviceReply> {
    const scratch = path.join(this.store.folders.incoming(), `bench-${randomUUID()}`)
    await mkdir(scratch, { recursive: true })
    const file = path.join(scratch, 'frame.jpg')
    try {
      const { position_mm, ...reply } = await bench.process.ask({ do: 'press', hand, to: file })
      const tones = await tonesOf(file)
      if (test) return { ...reply, tones }
      const { id, next } = await this.shoots.fieldRun(shootId, run)
      const name = `frame_${String(next).padStart(3, '0')}.jpg`
      const frame = await this.store.add(id, name, createReadStream(file), hand ? null : (position_mm ?? null))
      return { ...reply, frameId: frame.id, tones }
    } finally {
      await rm(scratch, { recursive: true, force: true })
    }
  }
}
