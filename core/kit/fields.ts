import type { Shelf } from './items'

/** One fact of a kit item: its words, its unit and its bounds. Forms, tables and checks are all made from this. */
export interface KitField {
  key: string
  label: string
  unit?: string
  /** Bounds, both allowed. */
  least?: number
  most?: number
  whole?: boolean
  optional?: boolean
  text?: boolean
  /** Yes or no; absent is no. */
  flag?: boolean
  /** The kinds of item that have this fact; all where absent. */
  kinds?: string[]
}

export interface ShelfFields {
  title: string
  /** What one item is called. */
  one: string
  kinds?: { value: string; label: string }[]
  /** The kind of items that were kept before the shelf had kinds. */
  usualKind?: string
  fields: KitField[]
}

const length = (key: string, label: string, most: number, rest: Partial<KitField> = {}): KitField => ({
  key,
  label,
  unit: 'mm',
  least: 0.001,
  most,
  ...rest,
})

/** Every shelf of the kit with the facts of its items, in the order in which they are asked for. */
export const SHELVES: Record<Shelf, ShelfFields> = {
  bodies: {
    title: 'Bodies',
    one: 'body',
    fields: [
      length('sensorWidth_mm', 'Sensor width', 200),
      length('sensorHeight_mm', 'Sensor height', 200),
      { key: 'pixelsWide', label: 'Pixels across', least: 16, most: 100_000, whole: true },
      { key: 'rawSize_MB', label: 'Raw file', unit: 'MB', least: 0, most: 2000 },
      length('register_mm', 'Mount to sensor', 200),
      { key: 'write_s', label: 'Writing a frame', unit: 's', least: 0, most: 120 },
      { key: 'framesPerCharge', label: 'Frames to a battery', least: 1, most: 100_000, whole: true },
      { key: 'card_GB', label: 'Card', unit: 'GB', least: 0.1, most: 100_000 },
      { key: 'shiftExposures', label: 'Sensor shift: captures to a frame', least: 2, most: 64, whole: true, optional: true },
      { key: 'shiftFiner', label: 'Sensor shift: pixels finer by', unit: '×', least: 1, most: 4, optional: true },
      { key: 'shutterPerStop', label: 'Shutter speeds to a stop', least: 1, most: 3, whole: true, optional: true },
      { key: 'bracketSteps', label: 'Own bracketing: step numbers up to', least: 1, most: 1000, whole: true, optional: true },
      { key: 'bracketMost', label: 'Own bracketing: most frames', least: 2, most: 9999, whole: true, optional: true },
    ],
  },
  lenses: {
    title: 'Lenses',
    one: 'lens',
    fields: [
      length('focalLength_mm', 'Focal length', 5000),
      { key: 'widestFNumber', label: 'Widest aperture', unit: 'f-number', least: 0.7, most: 64 },
      { key: 'smallestFNumber', label: 'Smallest opening', unit: 'f-number', least: 0.7, most: 128 },
      { key: 'sharpestFNumber', label: 'Sharpest at', unit: 'f-number', least: 0.7, most: 128, optional: true },
      length('nearest_mm', 'Nearest focus, from the sensor', 1e5),
      { key: 'mostMagnification', label: 'Largest magnification', unit: ': 1', least: 0.001, most: 50 },
      { key: 'pupilRatio', label: 'Pupil ratio', least: 0.05, most: 20 },
      length('length_mm', 'Mount to front rim', 2000),
      { key: 'scaleMarks', label: 'Distances on its focus scale', unit: 'm', text: true, optional: true },
      { key: 'breathing', label: 'Breathing', unit: '× a thin lens', least: 0.01, most: 10, optional: true },
      { key: 'ringTurn_deg', label: 'Ring turns, infinity to nearest', unit: '°', least: 5, most: 1500, optional: true },
      { key: 'driveClicks', label: 'Focus drive, infinity to nearest', unit: 'clicks', least: 2, most: 100_000, whole: true, optional: true },
    ],
  },
  attachments: {
    title: 'Attachments',
    one: 'attachment',
    kinds: [
      { value: 'tube', label: 'extension tube' },
      { value: 'bellows', label: 'bellows' },
      { value: 'closeUp', label: 'close-up lens' },
      { value: 'reverser', label: 'reversing ring' },
      { value: 'objective', label: 'microscope objective' },
    ],
    fields: [
      length('extension_mm', 'Adds extension', 1000, { kinds: ['tube', 'reverser'] }),
      length('shortest_mm', 'Extension, shortest', 1000, { kinds: ['bellows'] }),
      length('longest_mm', 'Extension, longest', 1000, { kinds: ['bellows'] }),
      length('focalLength_mm', 'Focal length', 10_000, { kinds: ['closeUp'] }),
      { key: 'designMagnification', label: 'Magnification engraved', unit: ': 1', least: 0.1, most: 250, kinds: ['objective'] },
      length('designTube_mm', 'Tube length it is made for', 1000, { kinds: ['objective'] }),
      { key: 'numericalAperture', label: 'Numerical aperture', least: 0.001, most: 0.99, kinds: ['objective'] },
      length('workingDistance_mm', 'Working distance', 500, { kinds: ['objective'] }),
    ],
  },
  rails: {
    title: 'Rails',
    one: 'rail',
    kinds: [
      { value: 'dial', label: 'by hand, with a dial' },
      { value: 'ruler', label: 'by hand, ruler only' },
      { value: 'motor', label: 'with a motor' },
    ],
    fields: [
      length('pitch_mm', 'Travel of one turn', 50, { kinds: ['dial', 'motor'] }),
      { key: 'marksPerTurn', label: 'Marks on the dial', least: 1, most: 3600, whole: true, kinds: ['dial'] },
      length('division_mm', 'Marks of the ruler apart', 50, { kinds: ['ruler'] }),
      { key: 'stepsPerTurn', label: 'Motor steps to a turn', least: 1, most: 10_000, whole: true, kinds: ['motor'] },
      { key: 'microsteps', label: 'Microsteps to a step', least: 1, most: 1024, whole: true, kinds: ['motor'] },
      { key: 'feed_mmPerMin', label: 'Speed', unit: 'mm/min', least: 0.01, most: 10_000, kinds: ['motor'] },
      length('length_mm', 'Travel from end to end', 10_000),
      { key: 'backlash_mm', label: 'Backlash', unit: 'mm', least: 0, most: 20 },
      { key: 'settle_s', label: 'Comes to rest in', unit: 's', least: 0, most: 600 },
    ],
  },
  lights: {
    title: 'Lights',
    one: 'light',
    kinds: [
      { value: 'daylight', label: 'daylight' },
      { value: 'lamp', label: 'lamp' },
      { value: 'flash', label: 'flash' },
    ],
    fields: [
      { key: 'recycling_s', label: 'Recycling', unit: 's', least: 0, most: 600, kinds: ['flash'] },
      { key: 'popsPerCharge', label: 'Pops to a charge', least: 1, most: 100_000, whole: true, kinds: ['flash'] },
    ],
  },
  calibrations: {
    title: 'Measured strides',
    one: 'measured stride',
    kinds: [
      { value: 'step', label: 'step number of a body' },
      { value: 'rail', label: 'rail by its dial' },
      { value: 'click', label: 'clicks of a focus drive' },
    ],
    usualKind: 'step',
    fields: [
      { key: 'body', label: 'Body', text: true, kinds: ['step'] },
      { key: 'rail', label: 'Rail', text: true, kinds: ['rail'] },
      { key: 'lens', label: 'Lens', text: true, kinds: ['step', 'click'] },
      { key: 'fNumber', label: 'Aperture', unit: 'f-number', least: 0.7, most: 128, kinds: ['step'] },
      { key: 'magnification', label: 'Magnification', unit: ': 1', least: 0.001, most: 50, kinds: ['step', 'click'] },
      { key: 'step', label: 'Step number', least: 1, most: 1000, whole: true, kinds: ['step'] },
      { key: 'dial_mm', label: 'Moved by its dial', unit: 'mm', least: 0.0001, most: 1000, kinds: ['rail'] },
      { key: 'clicks', label: 'Clicks', least: 0.1, most: 10_000, kinds: ['click'] },
      { key: 'stride_mm', label: 'Stride measured on the subject', unit: 'mm', least: 0.0001, most: 1000 },
      { key: 'spread_mm', label: 'Spread of its strides', unit: 'mm', least: 0, most: 1000, optional: true },
      { key: 'leftOut', label: 'Left out of plans', flag: true, optional: true },
    ],
  },
}

/** The facts that an item of this kind has. */
export function fieldsOf(shelf: Shelf, kind?: string): KitField[] {
  return SHELVES[shelf].fields.filter(({ kinds }) => !kinds || (kind !== undefined && kinds.includes(kind)))
}
