import { movesCamera } from '../movers'
import { gaussian, randomStream, specksOf, viewAt, type CameraSetup, type Fault, type Speck, type Taking, type View } from '../simulate'
import { IDENTITY, type Picture } from '../raster'
import { refusal } from '../words'
import { type Camera, type CameraSettings, type Devices, type Exposure, type Flash, type Look, type Rail, type Remote } from './device'
import { FocusDrive } from './focusDrive'
import { Play } from './play'
import { fineContrast } from './contrast'
import { livePicture, type PictureOrder, type Prospect } from './darkroom'

/** What the stand-ins stand in for: a scene, a camera before it, and what goes wrong. */
export interface StandInSetup {
  scene: string
  seed: number
  /** The camera as planned; its size is that of the pictures taken. */
  camera: CameraSetup
  /** Planes of focus of the plan, from the near edge, in shooting order; the first is where it stands at the beginning. */
  positions_mm: number[]
  settings: CameraSettings
  /** The light is a flash that takes so long to charge; absent by lamp or daylight. */
  recycling_s?: number
  batteryFrames: number
  cardFrames: number
  /** Play of the rail's screw. */
  backlash_mm: number
  faults: Fault[]
}

/** Takes the pictures, wherever that is done. */
export type Darkroom = (order: PictureOrder) => Promise<Picture>

const FULL_WELL = 30_000
const SENSOR_SHIFT_CAPTURES = 4
/** How often a flash that is not charged stays dark, in stops. */
const UNCHARGED_STOPS = 2.5

/** Simulated devices on one bench: what is done to one shows in the pictures of the other. */
export class StandIns implements Devices {
  readonly camera: Camera
  readonly rail?: Rail
  readonly flash?: Flash
  readonly remote: Remote
  private settings: CameraSettings
  private readonly drive: FocusDrive
  private readonly screw: Play
  private readonly random: () => number
  private readonly dust: Speck[]
  private exposed = 0
  private battery: number
  private card: number
  private flashedAt_s = -Infinity
  private knocked = { dx_px: 0, dy_px: 0 }
  private moved = false

  constructor(
    private readonly setup: StandInSetup,
    private readonly darkroom: Darkroom,
    private readonly clock_s: () => number = () => Date.now() / 1000,
  ) {
    const { camera, positions_mm, faults, seed } = setup
    this.settings = { ...setup.settings }
    this.drive = new FocusDrive(camera, this.reference_mm, positions_mm[0])
    this.screw = new Play(setup.backlash_mm)
    this.random = randomStream(seed + 5)
    this.dust = specksOf(
      this.sum('dust', ({ specks }) => specks),
      randomStream(seed + 99),
    )
    const short = this.sum('endShort', ({ frames }) => frames)
    this.battery = faults.some(({ kind }) => kind === 'endShort') ? positions_mm.length - short : setup.batteryFrames
    this.card = setup.cardFrames
    // Focus that starts short: where it is believed to stand is not where it stands.
    this.slip(this.sum('startShort', ({ frames }) => frames))
    const state = async () => this.cameraState()
    this.camera = {
      state,
      set: async (change) => {
        Object.assign(this.settings, change)
        return this.cameraState()
      },
      driveFocus: async (steps) => {
        this.drive.move(steps)
        this.moved = true
        return this.cameraState()
      },
      liveView: (look) => this.liveView(look),
      supply: async (what) => {
        if (what === 'battery') this.battery = setup.batteryFrames
        else this.card = setup.cardFrames
        return this.cameraState()
      },
    }
    if (movesCamera(camera.mover)) {
      this.rail = {
        state: async () => ({ position_mm: this.screw.reading_mm }),
        moveTo: async (position_mm) => {
          this.screw.moveTo(position_mm)
          this.moved = true
          return { position_mm }
        },
      }
    }
    if (setup.recycling_s !== undefined) this.flash = { state: async () => ({ recycling_s: this.recycling_s() }) }
    this.remote = { press: (hand = false) => this.expose(hand) }
  }

  /** Moves the focus to a plane as whoever has calibrated rail or drive would: by what they show, not by where it is. */
  async goTo(position_mm: number): Promise<void> {
    if (this.rail) await this.rail.moveTo(position_mm - this.setup.positions_mm[0])
    else await this.camera.driveFocus(this.drive.stepsTo(position_mm))
  }

  get focalLength_mm(): number {
    return this.setup.camera.focalLength_mm
  }

  /** What is known of every frame beforehand. */
  get prospect(): Prospect {
    return { setup: this.lens(), reference_mm: this.reference_mm }
  }

  /** Plane of focus, from the subject's near edge. */
  get focus_mm(): number {
    return movesCamera(this.setup.camera.mover) ? this.drive.focus_mm + this.screw.carriage_mm : this.drive.focus_mm
  }

  /** The plane that the camera frames: the middle one of the plan. */
  private get reference_mm(): number {
    const { positions_mm } = this.setup
    return positions_mm[Math.ceil(positions_mm.length / 2) - 1]
  }

  private cameraState() {
    const { batteryFrames } = this.setup
    return {
      ...this.settings,
      focusStep: this.drive.step,
      battery_percent: Math.round((100 * this.battery) / batteryFrames),
      cardFrames: this.card,
      exposed: this.exposed,
    }
  }

  private async liveView(look: Look) {
    const taking = this.taking(false, 1)
    // The finder opens the aperture's view as set, brightens what is dark, and is noisier than a frame.
    const order = this.order({ ...taking, exposure: 1, fullWell: FULL_WELL / 4 })
    const picture = await this.darkroom(livePicture(order, look))
    const window = look.magnifier
      ? { x: 0.25, y: 0.25, width: 0.5, height: 0.5 }
      : { x: look.spot.x - 0.07, y: look.spot.y - 0.07, width: 0.14, height: 0.14 }
    return { picture, contrast: fineContrast(picture.planes[1], window) }
  }

  private async expose(hand: boolean): Promise<Exposure> {
    if (this.battery < 1) throw refusal('device.battery')
    if (this.card < 1) throw refusal('device.card')
    const captures = this.settings.sensorShift ? SENSOR_SHIFT_CAPTURES : 1
    this.exposed++
    this.battery = Math.max(0, this.battery - captures)
    this.card--
    const number = this.exposed
    if (this.moved) {
      if (this.hasAt('skippedStep', number)) this.slip(1)
      if (this.hasAt('repeatedStep', number)) this.slip(-1)
      this.moved = false
    }
    for (const fault of this.setup.faults) {
      if (fault.kind !== 'bump' || fault.frame !== number) continue
      const shift = (fault.shift_percent / 100) * this.setup.camera.width_px
      this.knocked = { dx_px: this.knocked.dx_px + 0.8 * shift, dy_px: this.knocked.dy_px + 0.6 * shift }
    }
    const unlit = this.hasAt('noFlash', number) || this.recycling_s() > 0 ? UNCHARGED_STOPS : 0
    const taking = this.taking(hand || this.hasAt('divider', number), captures)
    const picture = await this.darkroom(
      this.order({
        ...taking,
        exposure: taking.exposure * 2 ** -unlit * 2 ** (gaussian(this.random) * (0.02 + this.sum('flicker', ({ ev }) => ev))),
      }),
    )
    this.flashedAt_s = this.clock_s()
    return { picture, settings: { ...this.settings }, position_mm: this.focus_mm }
  }

  /** What the settings and what goes wrong do to the next exposure. */
  private taking(hand: boolean, captures: number): Taking {
    const { faults, settings: planned, seed, recycling_s } = this.setup
    const { shutter_s, iso, fNumber } = this.settings
    // A flash is much shorter than the shutter: only aperture and ISO count.
    const time = recycling_s === undefined ? shutter_s / planned.shutter_s : 1
    const tint: [number, number, number] = [1, 1, 1]
    let shake_px = 0
    for (const fault of faults) {
      if (fault.kind === 'whiteBalance' && fault.frame === this.exposed) [tint[0], tint[2]] = [2 ** fault.red_ev, 2 ** fault.blue_ev]
      if (fault.kind === 'shake' && fault.frame === this.exposed) shake_px = fault.length_px
    }
    return {
      strike: { tint, shake_px, hand },
      dust: this.dust,
      moment: this.exposed,
      wind: seed * 131 + Math.floor(this.random() * 1e6),
      noise: seed * 7919 + Math.floor(this.random() * 1e6),
      exposure: time * (iso / planned.iso) * (planned.fNumber / fNumber) ** 2,
      fullWell: (FULL_WELL * captures * 100) / Math.max(iso, 50),
    }
  }

  private order(taking: Taking): PictureOrder {
    return { setup: this.lens(), view: this.view(), taking, reference_mm: this.reference_mm }
  }

  private view(): View {
    const sway = this.sum('sway', ({ shift_px }) => shift_px)
    const jitter = {
      scale: 1,
      rotation_rad: gaussian(this.random) * 0.0005,
      dx_px: this.knocked.dx_px + gaussian(this.random) * (0.3 + sway),
      dy_px: this.knocked.dy_px + gaussian(this.random) * (0.3 + 0.3 * sway),
    }
    const { camera } = this.setup
    const carried = movesCamera(camera.mover) ? this.screw.carriage_mm + (this.setup.positions_mm[0] - this.reference_mm) : 0
    // The focus ring and the rail both move the plane of focus; only the rail moves the camera.
    const view = viewAt({ ...this.lens(), mover: 'ring' }, this.focus_mm, this.reference_mm + carried, IDENTITY)
    return { ...view, jitter }
  }

  private lens(): CameraSetup {
    return { ...this.setup.camera, fNumber: this.settings.fNumber }
  }

  private recycling_s(): number {
    const { recycling_s } = this.setup
    return recycling_s === undefined ? 0 : Math.max(0, this.flashedAt_s + recycling_s - this.clock_s())
  }

  /** The focus goes by so many steps of the plan without anybody noticing. */
  private slip(frames: number): void {
    const { positions_mm, camera } = this.setup
    if (frames === 0 || positions_mm.length < 2) return
    if (movesCamera(camera.mover)) return this.screw.slip(frames * (positions_mm[1] - positions_mm[0]))
    const away = positions_mm.map((position) => Math.abs(position - this.drive.focus_mm))
    const to = away.indexOf(Math.min(...away)) + frames
    this.drive.slipTo(positions_mm[Math.min(positions_mm.length - 1, Math.max(0, to))])
  }

  private hasAt(kind: Fault['kind'], frame: number): boolean {
    return this.setup.faults.some((fault) => fault.kind === kind && 'frame' in fault && fault.frame === frame)
  }

  private sum<K extends Fault['kind']>(kind: K, of: (fault: Extract<Fault, { kind: K }>) => number): number {
    return this.setup.faults.reduce((sum, fault) => (fault.kind === kind ? sum + of(fault as Extract<Fault, { kind: K }>) : sum), 0)
  }
}
