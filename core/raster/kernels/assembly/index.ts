// The kernels in AssemblyScript, with 128-bit SIMD. `../twin` is the same in plain TypeScript, and what tests compare with.
//
// Planes are rows of f32, or of u16 for frames as they were taken in, at a byte offset. A row is padded to a multiple of 8
// places, so that vectors need no ends; what lies in the padding is never read into a picture. Every kernel works on rows
// `from` … `to` (exclusive) of its result, so that several threads share one call; each has rows of its own to compute in,
// `rowsBytes` bytes at `rows` + part × `rowsBytes`. A row's arithmetic is the same whoever does it.

// @ts-nocheck: AssemblyScript has types and operators that TypeScript does not know.

export { collect, normalSums, sampleAt } from './align'
export { warpSamples, luma, interleave } from './samples'
export { reduce, expand, smooth, gradients } from './pyramid'
export { energy, raise } from './weights'
export { lesser, mix, squareApart, squaredGradient, subtract } from './compare'
export { addAllSeen } from './seen'
export { projectLight, spreadBlocks } from './spread'
export { sumLight, clearLight, joinLight, enlargeLight, coverLight } from './light'
export { softenAlong, softenDown, develop } from './develop'
export { accumulate, accumulateTop, average, divide, collapse, deliver, peak } from './sums'
export { even } from './depth'
export { finishRows, luminance, sharpenRows } from './finish'
export { layOver, strokeStrength } from './stroke'
