import { KERNELS as COMPILED } from './generated'
import * as twin from './twin'

/** Kernels that compute in rows of their own: what takes `rows`, `rowsBytes` and `part` before the rows of the result. */
const IN_ROWS = new Set<string>([
  'warpSamples',
  'reduce',
  'expand',
  'smooth',
  'energy',
  'accumulate',
  'average',
  'collapse',
  'deliver',
  'finishRows',
  'strokeStrength',
])

export const keepsRows = (name: KernelName) => IN_ROWS.has(name)

export type KernelName = keyof typeof twin
/** In one order everywhere: threads get a kernel by its number. */
export const KERNEL_NAMES = (Object.keys(twin) as KernelName[]).sort()

/** Where planes lie, and what is done to them. Places are byte offsets into the memory. */
export interface Kernels {
  /** The memory as it is now; it may grow, which never moves what is there. */
  buffer(): ArrayBuffer
  /** Makes sure that the memory holds so many bytes. */
  reserve(bytes: number): void
  /** Makes room for pictures so wide, before anything is run on them. */
  widen(width: number): void
  /** First place that pictures may take then. */
  readonly begin: number
  /** Runs a kernel on the rows 0 … `rows` of its result. `args` are those before the part's own rows. */
  run(name: KernelName, args: number[], rows: number): void
}

const PAGE = 65536
/** Where pictures begin; before them lie the rows that parts compute in. */
const ROWS_AT = 4096

const FIRST_PAGES = 16

/** Energies are smoothed so many times at the most, each in five rows of its own. */
export const MOST_SMOOTHINGS = 4
/** Three of half the width that are expanded, and one to blend in. */
const MOST_ROWS = 3 + 5 * MOST_SMOOTHINGS

/** Memory that threads may share, of up to `most_MB`; 4096 is as much as there can be. */
export function createMemory(most_MB = 4096): WebAssembly.Memory {
  const maximum = Math.min(PAGE, Math.max(FIRST_PAGES, Math.floor((most_MB * 2 ** 20) / PAGE)))
  return new WebAssembly.Memory({ initial: FIRST_PAGES, maximum, shared: true })
}

type Compiled = Record<KernelName, (...args: number[]) => void>

export function compile(memory: WebAssembly.Memory): Compiled {
  const bytes = Uint8Array.from(atob(COMPILED), (letter) => letter.charCodeAt(0))
  const env = { memory, abort: () => undefined }
  return new WebAssembly.Instance(new WebAssembly.Module(bytes), { env }).exports as unknown as Compiled
}

/** What every set of kernels has to know: where its parts' rows lie, and where pictures may begin. */
export abstract class RowKeeping {
  protected rowsBytes = 0

  abstract reserve(bytes: number): void

  constructor(readonly parts: number) {}

  widen(width: number): void {
    // Rows of f32, padded, with room at both ends.
    this.rowsBytes = (Math.ceil(width / 8) * 8 + 64) * 4 * MOST_ROWS + 512
    this.reserve(this.begin)
  }

  /** First place that pictures may take. */
  get begin(): number {
    return ROWS_AT + this.rowsBytes * this.parts
  }

  /** The arguments of a kernel for one part of the rows. */
  protected whole(name: KernelName, args: number[], part: number, from: number, to: number): number[] {
    return IN_ROWS.has(name) ? [...args, ROWS_AT, this.rowsBytes, part, from, to] : [...args, from, to]
  }
}

/** The compiled kernels, in the calling thread. */
export class WasmKernels extends RowKeeping implements Kernels {
  protected readonly compiled: Compiled

  constructor(
    readonly memory: WebAssembly.Memory = createMemory(),
    parts = 1,
  ) {
    super(parts)
    this.compiled = compile(memory)
  }

  buffer(): ArrayBuffer {
    // Shared or not, typed arrays lie on it in the same way.
    return this.memory.buffer as unknown as ArrayBuffer
  }

  reserve(bytes: number): void {
    const missing = Math.ceil((bytes - this.memory.buffer.byteLength) / PAGE)
    if (missing > 0) this.memory.grow(missing)
  }

  run(name: KernelName, args: number[], rows: number): void {
    this.compiled[name](...this.whole(name, args, 0, 0, rows))
  }
}

/** The plain ones, on memory of their own. */
export class TwinKernels extends RowKeeping implements Kernels {
  private bytes = new ArrayBuffer(1 << 20)

  constructor() {
    super(1)
  }

  buffer(): ArrayBuffer {
    return this.bytes
  }

  reserve(bytes: number): void {
    if (bytes <= this.bytes.byteLength) return
    const larger = new ArrayBuffer(Math.max(bytes, 2 * this.bytes.byteLength))
    new Uint8Array(larger).set(new Uint8Array(this.bytes))
    this.bytes = larger
  }

  run(name: KernelName, args: number[], rows: number): void {
    const kernel = twin[name] as (memory: ArrayBuffer, ...args: number[]) => void
    kernel(this.bytes, ...this.whole(name, args, 0, 0, rows))
  }
}
