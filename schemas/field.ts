import Joi from 'joi'
import type { CameraSettings } from '@/core/devices'
import type { FieldEntry, FieldEvent } from '@/core/field'
import { FAULT_WORDS, type Fault } from '@/core/simulate'

const position = Joi.number().min(-1e6).max(1e9)

/** What each kind of entry has to tell. */
const EVENTS: Record<FieldEvent['kind'], Joi.SchemaMap> = {
  begin: {},
  returned: { run: Joi.string().guid().allow('').required() },
  prepared: { line: Joi.string().max(200).required(), done: Joi.boolean().required() },
  taken: { position },
  bracketed: { frames: Joi.number().integer().min(1).max(9999).required() },
  filled: { position: position.required() },
  repeated: {},
  extra: { what: Joi.valid('test', 'divider', 'spare').required() },
  missed: {},
  paused: {},
  resumed: {},
  cleared: { entry: Joi.string().guid().required() },
  undone: { entry: Joi.string().guid().required() },
}

const entry = Joi.alternatives().conditional('.kind', {
  switch: Object.entries(EVENTS).map(([kind, facts]) => ({
    is: kind,
    then: Joi.object({ kind: Joi.string(), id: Joi.string().guid().required(), at: Joi.string().isoDate().required(), ...facts }),
  })),
  otherwise: Joi.object({ kind: Joi.valid(...Object.keys(EVENTS)).required() }).unknown(),
})

/** What an entry tells, as it is kept. */
export const fieldEventSchema = Joi.alternatives().conditional('.kind', {
  switch: Object.entries(EVENTS).map(([kind, facts]) => ({ is: kind, then: Joi.object({ kind: Joi.string(), ...facts }) })),
  otherwise: Joi.object({ kind: Joi.valid(...Object.keys(EVENTS)).required() }).unknown(),
})

export interface FieldLogRequest {
  entries: FieldEntry[]
  /** Where they come from a card file: the shoot that it was made for. */
  shoot?: { uid: string; title: string }
}

/** Entries of a field log, as a phone sends them once it is connected. */
export const fieldLogSchema = Joi.object<FieldLogRequest>({
  entries: Joi.array().items(entry).max(2000).required(),
  shoot: Joi.object({ uid: Joi.string().guid().required(), title: Joi.string().allow('').max(200).required() }),
})

/** What a screen may ask of the stand-in devices. */
export type DeviceCall =
  | { do: 'open'; faults: Fault['kind'][]; width_px: number }
  | { do: 'state' }
  | { do: 'set'; change: Partial<CameraSettings> }
  | { do: 'drive'; steps: number }
  | { do: 'move'; position_mm: number }
  /** To a plane of focus, from the near edge. */
  | { do: 'goTo'; position_mm: number }
  | { do: 'look'; look: { spot: { x: number; y: number }; magnifier: boolean } }
  /** `run` is the entry of the log that began the run the frame belongs to, empty for its first. */
  | { do: 'press'; hand?: boolean; test?: boolean; run?: string }
  | { do: 'supply'; what: 'battery' | 'card' }

const part = Joi.number().min(0).max(1).required()

const CALLS: Record<DeviceCall['do'], Joi.SchemaMap> = {
  open: {
    faults: Joi.array()
      // The stand-ins have no subject that stirs.
      .items(Joi.valid(...Object.keys(FAULT_WORDS).filter((kind) => kind !== 'stirred')))
      .unique()
      .default([]),
    width_px: Joi.valid(1200, 3000).default(1200),
  },
  state: {},
  set: {
    change: Joi.object({
      fNumber: Joi.number().min(0.7).max(90),
      shutter_s: Joi.number().min(1e-5).max(3600),
      iso: Joi.number().min(25).max(102_400),
      sensorShift: Joi.boolean(),
    }).required(),
  },
  drive: { steps: Joi.number().integer().min(-100_000).max(100_000).required() },
  move: { position_mm: Joi.number().min(-1000).max(1000).required() },
  goTo: { position_mm: Joi.number().min(-1000).max(1e7).required() },
  look: { look: Joi.object({ spot: Joi.object({ x: part, y: part }).required(), magnifier: Joi.boolean().required() }).required() },
  press: { hand: Joi.boolean(), test: Joi.boolean(), run: Joi.string().guid().allow('').default('') },
  supply: { what: Joi.valid('battery', 'card').required() },
}

export const deviceCallSchema = Joi.alternatives().conditional('.do', {
  switch: Object.entries(CALLS).map(([what, facts]) => ({ is: what, then: Joi.object({ do: Joi.string(), ...facts }) })),
  otherwise: Joi.object({ do: Joi.valid(...Object.keys(CALLS)).required() }).unknown(),
})

/** What the stand-ins answer. */
export interface DeviceReply {
  camera: CameraSettings & { focusStep: number; battery_percent: number; cardFrames: number; exposed: number }
  rail?: { position_mm: number }
  flash?: { recycling_s: number }
  /** Whether a frame comes at once: until then the scene of the stand-ins is still being made ready. */
  ready: boolean
  /** Live view. */
  contrast?: number
  jpeg?: string
  width?: number
  height?: number
  /** The frame that was exposed, where it is kept, and how its tones are spread. */
  frameId?: number
  tones?: Tones
}

/** Tones of a frame: its histogram in 64 steps of brightness, and what is clipped, in percent of all pixels. */
export interface Tones {
  histogram: number[]
  white_percent: number
  black_percent: number
}
