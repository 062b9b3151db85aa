import { KERNELS as COMPILED } from './generated'
import * as twin from './twin'

/** Arguments of each kernel before the rows: a plane of f32, interleaved samples, or a number. */
const SIGNATURES = {
  // prettier-ignore
  warpSamples: ['samples', 'number', 'plane', 'plane', 'plane', 'number', 'number', 'number', 'number', 'number', 'number', 'number', 'plane', 'plane', 'number'],
  reduceRows: ['plane', 'number', 'plane'],
  reduceColumns: ['plane', 'number', 'number', 'plane'],
  expandRows: ['plane', 'number', 'plane', 'number'],
  expandColumns: ['plane', 'number', 'plane', 'plane', 'number', 'number', 'number'],
  smoothRows: ['plane', 'number', 'plane'],
  smoothColumns: ['plane', 'number', 'number', 'plane'],
  addSquares: ['plane', 'plane', 'number', 'number'],
  add: ['plane', 'plane', 'number'],
  raise: ['plane', 'number', 'number', 'number'],
  addWeighted: ['plane', 'plane', 'plane', 'number'],
  divide: ['plane', 'plane', 'number'],
  choose: ['plane', 'plane', 'plane', 'plane', 'number', 'number'],
} as const satisfies Record<string, readonly ('plane' | 'samples' | 'number')[]>

export type KernelName = keyof typeof SIGNATURES
export const KERNEL_NAMES = Object.keys(SIGNATURES) as KernelName[]

/** Where planes lie, and what is done to them. Places are byte offsets into the memory. */
export interface Kernels {
  /** The memory as it is now; it may grow, which never moves what is there. */
  buffer(): ArrayBuffer
  /** How many parts a call is shared between. */
  readonly parts: number
  /** Makes sure that the memory holds so many bytes. */
  reserve(bytes: number): void
  /** Runs a kernel on the rows 0 … `rows` of its result. */
  run(name: KernelName, args: number[], rows: number): void
}

const PAGE = 65536

/** Memory that threads may share. */
export function createMemory(): WebAssembly.Memory {
  return new WebAssembly.Memory({ initial: 16, maximum: PAGE, shared: true })
}

type Compiled = Record<KernelName, (...args: number[]) => void>

export function compile(memory: WebAssembly.Memory): Compiled {
  const bytes = Uint8Array.from(atob(COMPILED), (letter) => letter.charCodeAt(0))
  const env = { memory, abort: () => undefined }
  return new WebAssembly.Instance(new WebAssembly.Module(bytes), { env }).exports as unknown as Compiled
}

/** The compiled kernels, in the calling thread. */
export class WasmKernels implements Kernels {
  readonly parts: number = 1
  protected readonly compiled: Compiled

  constructor(readonly memory: WebAssembly.Memory = createMemory()) {
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
    this.compiled[name](...args, 0, rows)
  }
}

/** The plain ones, on memory of their own. */
export class TwinKernels implements Kernels {
  readonly parts = 1
  private bytes = new ArrayBuffer(1 << 20)

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
    const seen: unknown[] = []
    SIGNATURES[name].forEach((kind, k) => {
      if (kind === 'plane') seen.push(new Float32Array(this.bytes, args[k]))
      // The samples' width is told by the next argument, which the compiled kernel needs and this one does not.
      else if (kind === 'samples') seen.push(args[k + 1] ? new Uint16Array(this.bytes, args[k]) : new Uint8Array(this.bytes, args[k]))
      else if (!(name === 'warpSamples' && k === 1)) seen.push(args[k])
    })
    ;(twin[name] as (...all: unknown[]) => void)(...seen, 0, rows)
  }
}
