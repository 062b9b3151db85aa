/** What is done to the light of each pixel, as the kernel `finishRows` takes it: numbers of 32 bits, {@link OPERATION_words} an operation. */
export type Operation =
  | { kind: 'scale'; red: number; green: number; blue: number }
  /** Times what the table says at its luminance: 4097 places, one after the other by the fourth root. */
  | { kind: 'tones'; table: number }
  /** Away from its grey, or towards it. */
  | { kind: 'colour'; strength: number }
  /** Times what the table says at t = start + x · across + y · down: 1025 places from 0 to 1. */
  | { kind: 'fade'; table: number; start: number; across: number; down: number }
  /** The same at t = start + depth · across, a map of whole numbers of 16 bits as large as the picture. */
  | { kind: 'fadeByMap'; table: number; map: number; start: number; across: number }
  /** Times a map of f32 over a rectangle. */
  | { kind: 'gains'; map: number; x: number; y: number; width: number; height: number }

export const OPERATION_words = 12
export const TONE_steps = 4096
export const FADE_steps = 1024

/** Light below this power of two (with 127 for 1) is black: less than a tenth of the first sample's. */
export const DARKEST_exponent = 96
/** Pieces of the table from light to samples for each doubling of light: so many bits of a floating-point number. */
export const PIECES_bits = 8

const KINDS = ['scale', 'tones', 'colour', 'fade', 'fadeByMap', 'gains'] as const

/** The words of operations, one after the other, with what the luminance is made of in each. */
export function operationWords(operations: Operation[], [red, green, blue]: [number, number, number]): ArrayBuffer {
  const words = new ArrayBuffer(4 * OPERATION_words * operations.length)
  const [whole, real] = [new Int32Array(words), new Float32Array(words)]
  operations.forEach((operation, k) => {
    const at = k * OPERATION_words
    whole[at] = KINDS.indexOf(operation.kind)
    real.set([red, green, blue], at + 1)
    PUT[operation.kind](operation as never, whole.subarray(at + 4), real.subarray(at + 4))
  })
  return words
}

const PUT: { [K in Operation['kind']]: (operation: Extract<Operation, { kind: K }>, whole: Int32Array, real: Float32Array) => void } = {
  scale: ({ red, green, blue }, _, real) => real.set([red, green, blue]),
  tones: ({ table }, whole) => whole.set([table]),
  colour: ({ strength }, _, real) => real.set([strength]),
  fade: ({ table, start, across, down }, whole, real) => {
    whole.set([table])
    real.set([start, across, down], 1)
  },
  fadeByMap: ({ table, map, start, across }, whole, real) => {
    whole.set([table, map])
    real.set([start, across], 2)
  },
  gains: ({ map, x, y, width, height }, whole) => whole.set([map, x, y, width, height]),
}
