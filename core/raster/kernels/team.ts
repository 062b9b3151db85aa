import { compile, keepsRows, KERNEL_NAMES, WasmKernels, type KernelName } from './kernels'

/**
 * What threads that share one memory tell each other. A turn is one call of a kernel; its number is odd while its rows are given out. Who
 * joins one is busy until it has taken its last part, and the next turn begins when nobody is: so a thread may come late, or
 * never, and the others do its share.
 */
const TURN = 0
const BUSY = 1
const KERNEL = 2
const COUNT = 3
const ROWS = 4
/** Whether the kernel computes in rows of its own. */
const IN_ROWS = 5
/** The next part of the rows that nobody has taken, and how many parts there are. */
const NEXT = 6
const PARTS = 7
/** Set by a thread whose part could not be computed. */
const FAILED = 8
const HEADER_BYTES = 64
const MOST_ARGUMENTS = 32
/** Parts that rows are cut into for each thread: whoever is sooner done takes the next, so that none waits long for another. */
const PARTS_EACH = 6
/** And rows that a part has at the least. */
const LEAST_PART = 16
/** So many times a thread looks before it goes to sleep: waking takes longer than the next call usually does. */
const LOOKS = 4000
/** Fewer places than this are done sooner by one thread than handed to several. */
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
    const all = this.whole(name, args, 0, 0, rows)
    this.args.set(all)
    control[KERNEL] = KERNEL_NAMES.indexOf(name)
    control[COUNT] = all.length
    control[IN_ROWS] = Number(keepsRows(name))
    control[ROWS] = rows
    control[NEXT] = 0
    control[PARTS] = Math.min(PARTS_EACH * this.parts, Math.ceil(rows / LEAST_PART))
    Atomics.add(control, TURN, 1)
    Atomics.notify(control, TURN)
    try {
      takeParts(control, this.compiled[name], all)
    } finally {
      // However it went, the turn ends, and nobody is at work any more when the caller goes on.
      Atomics.add(control, TURN, 1)
      for (let busy = Atomics.load(control, BUSY), looks = 0; busy > 0; busy = Atomics.load(control, BUSY))
        if (looks++ >= LOOKS) Atomics.wait(control, BUSY, busy)
    }
    if (control[FAILED]) throw new Error(`Another thread could not compute its part of ${name}.`)
  }
}

/** Computes the parts that no other thread has taken, the first and last row of each in the last two arguments. */
function takeParts(control: Int32Array, kernel: (...args: number[]) => void, args: number[]): void {
  const [rows, parts] = [control[ROWS], control[PARTS]]
  for (let part = Atomics.add(control, NEXT, 1); part < parts; part = Atomics.add(control, NEXT, 1)) {
    args[args.length - 2] = Math.floor((rows * part) / parts)
    args[args.length - 1] = Math.floor((rows * (part + 1)) / parts)
    kernel(...args)
  }
}

/** Serves a team as its `number`th other thread, for ever. */
export function serveKernels(memory: WebAssembly.Memory, board: SharedArrayBuffer, number: number): never {
  const control = new Int32Array(board, 0, HEADER_BYTES / 4)
  const args = new Float64Array(board, HEADER_BYTES)
  const compiled = compile(memory)
  for (let done = 0, looks = 0; ;) {
    const turn = Atomics.load(control, TURN)
    if (turn === done || turn % 2 === 0) {
      if (looks++ >= LOOKS) Atomics.wait(control, TURN, turn)
      continue
    }
    looks = 0
    done = turn
    Atomics.add(control, BUSY, 1)
    // The turn may have ended, and another begun, before this thread said that it is busy.
    if (Atomics.load(control, TURN) === turn) {
      const all = [...args.subarray(0, control[COUNT])]
      // The same call in rows of its own to compute in.
      if (control[IN_ROWS]) all[all.length - 3] = number
      try {
        takeParts(control, compiled[KERNEL_NAMES[control[KERNEL]]], all)
      } catch {
        // Told to who asked: it would wait for ever for a thread that ended.
        control[FAILED] = 1
      }
    }
    if (Atomics.sub(control, BUSY, 1) === 1) Atomics.notify(control, BUSY)
  }
}
