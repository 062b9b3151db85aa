import * as fc from 'fast-check'
import { TwinKernels, WasmKernels, Workspace, type KernelName, type Slab } from '.'

/** What a kernel is run with. */
export interface Call {
  args: number[]
  rows: number
  /** Planes that the kernel writes. */
  out?: Slab[]
  /** Whether whole ones of 16 bits have a sign. */
  signed?: boolean
  /** Other places it writes, and how many f64 there. */
  sums?: [number, number]
  /** Told of the memory after the kernel has run, before it is compared. */
  after?: (buffer: ArrayBuffer) => void
}

/** Runs one kernel in both, on the same planes, and answers what each made. */
export function both(name: KernelName, width: number, prepare: (space: Workspace) => Call): number[][] {
  return [new TwinKernels(), new WasmKernels()].map((kernels) => {
    const space = new Workspace(kernels, width)
    const { args, rows, out = [], signed, sums, after } = prepare(space)
    kernels.run(name, args, rows)
    after?.(kernels.buffer())
    const planes = out.flatMap((slab) => [...(slab.bytes === 2 ? wholeOf(space, slab, signed) : space.copy(slab))])
    return sums ? [...planes, ...new Float64Array(kernels.buffer(), ...sums)] : planes
  })
}

function wholeOf(space: Workspace, slab: Slab, signed = false): number[] {
  const { at, width, height, stride } = slab
  const values = signed ? space.steps(slab) : new Uint16Array(space.kernels.buffer(), at, stride * height)
  return Array.from({ length: width * height }, (_, i) => values[Math.floor(i / width) * stride + (i % width)])
}

/** A plane with repeatable values of 0 … 1, or whole ones of 16 bits, with what must not be read in its padding. */
export function fill(space: Workspace, width: number, height: number, seed: number, bytes: 2 | 4 = 4): Slab {
  const slab = space.plane(width, height, bytes)
  const { at, stride } = slab
  const values = bytes === 2 ? new Uint16Array(space.kernels.buffer(), at, stride * height) : space.view(slab)
  let state = seed + 1
  values.forEach((_, i) => {
    state = (state * 16807) % 2147483647
    values[i] = i % stride < width ? (bytes === 2 ? state % 65536 : (state % 1000) / 1000) : 9999
  })
  return slab
}

/** Alike within a part of the value, or, where `absolute`, within so much. */
export function expectAlike([twin, compiled]: number[][], relative = 4e-6, absolute = false) {
  expect(compiled).toHaveLength(twin.length)
  twin.forEach((value, i) => {
    if (Number.isNaN(value) && Number.isNaN(compiled[i])) return
    if (!(Math.abs(compiled[i] - value) <= relative * (absolute ? 1 : Math.max(1, Math.abs(value)))))
      throw new Error(`place ${i}: ${compiled[i]} and ${value}`)
  })
}

/** Sizes with and without a rest to vectors. */
export const size = { width: fc.integer({ min: 1, max: 41 }), height: fc.integer({ min: 1, max: 23 }), seed: fc.integer({ min: 0, max: 1000 }) }
export type Size = { width: number; height: number; seed: number }
export const everySize = (check: (facts: Size) => void) => fc.assert(fc.property(fc.record(size), check), { numRuns: 60 })
export const at = (slabs: Slab[]) => slabs.map((slab) => slab.at)
