/**
 * The kernels in plain TypeScript: the reference that the compiled ones are compared with, and what runs where those
 * cannot. They take the memory and the places in it, byte by byte as the compiled ones do; rows `from` … `to` (exclusive)
 * of the result are made. Rows of f32, or of u16, are `stride` places apart.
 */
export { collect, normalSums, sampleAt } from './align'
export { interleave, luma, warpSamples } from './samples'
export { expand, gradients, reduce, smooth } from './pyramid'
export { energy, raise } from './weights'
export { lesser, mix, squareApart, squaredGradient, subtract } from './compare'
export { addAllSeen } from './seen'
export { projectLight, spreadBlocks } from './spread'
export { clearLight, coverLight, enlargeLight, joinLight, sumLight } from './light'
export { develop, softenAlong, softenDown } from './develop'
export { accumulate, accumulateTop, average, collapse, deliver, divide, peak } from './sums'
export { even } from './depth'
export { finishRows, luminance, sharpenRows } from './finish'
export { layOver, strokeStrength } from './stroke'
