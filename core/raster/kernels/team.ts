import { compile, keepsRows, KERNEL_NAMES, WasmKernels, type KernelName } from './kernels'

/** What threads that share one memory are told: turn, kernel, threads still at work, count of arguments, rows, and more below. */
const TURN = 0
const KERNEL = 1
const AT_WORK = 2
const COUNT = 3
const ROWS = 4
/** Whether the kernel computes in rows of its own. */
const IN_ROWS = 5
const HEADER_BYTES = 64
const MOST_ARGUMENTS = 32
/** Fewer places than this are done sooner by one thread than told to several. */
const LEAST_ROWS = 64

export function createBoard(): SharedArrayBuffer {
  return new SharedArrayBuffer(HEADER_BYTES + 8 * MOST_ARGUMENTS)
}

/** The compiled kernels, each call shared between threads by rows: the same bytes, whatever their number. */
export class TeamKernels extends WasmKernels {
  private readonly control: Int32Array
  private readonly args: Float64Array

  /** `others` threads run {@link serveKernels} on the same memory and board. */
  constructor(
    memory: WebAssembly.Memory,
    board: SharedArrayBuffer,
    private readonly others: number,
  ) {
    super(memory, others + 1)
    this.control = new Int32Array(board, 0, HEADER_BYTES / 4)
    this.args = new Float64Array(board, HEADER_BYTES)
  }

  override run(name: KernelName, args: number[], rows: number): void {
    if (rows < LEAST_ROWS || this.others === 0) return super.run(name, args, rows)
    const { control } = this
    const all = this.whole(name, args, 0, 0, Math.floor(rows / this.parts))
    this.args.set(all)
    control[KERNEL] = KERNEL_NAMES.indexOf(name)
    control[COUNT] = all.length
    control[IN_ROWS] = Number(keepsRows(name))
    control[ROWS] = rows
    Atomics.store(control, AT_WORK, this.others)
    Atomics.add(control, TURN, 1)
    Atomics.notify(control, TURN)
    this.compiled[name](...all)
    for (let left = Atomics.load(control, AT_WORK); left > 0; left = Atomics.load(control, AT_WORK)) Atomics.wait(control, AT_WORK, left)
  }
}

/** Serves a team as its `number`th of `others` threads, for ever. */
export function serveKernels(memory: WebAssembly.Memory, board: SharedArrayBuffer, number: number, others: number): never {
  const control = new Int32Array(board, 0, HEADER_BYTES / 4)
  const args = new Float64Array(board, HEADER_BYTES)
  const compiled = compile(memory)
  for (let turn = 0; ;) {
    Atomics.wait(control, TURN, turn)
    const now = Atomics.load(control, TURN)
    if (now === turn) continue
    turn = now
    const rows = control[ROWS]
    const part = (k: number) => Math.floor((rows * k) / (others + 1))
    const all = [...args.subarray(0, control[COUNT])]
    // The same call for another part: its own rows to compute in, its own rows of the result.
    if (control[IN_ROWS]) all[all.length - 3] = number
    all[all.length - 2] = part(number)
    all[all.length - 1] = part(number + 1)
    compiled[KERNEL_NAMES[control[KERNEL]]](...all)
    if (Atomics.sub(control, AT_WORK, 1) === 1) Atomics.notify(control, AT_WORK)
  }
}
