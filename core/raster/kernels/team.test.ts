import { availableParallelism } from 'node:os'
import { Worker } from 'node:worker_threads'
import path from 'node:path'
import { STYLES } from '../../fuse'
import { createPicture, toInterleaved16 } from '../plane'
import { IDENTITY } from '../similarity'
import { createBoard, createMemory, TeamKernels, WasmKernels, type Kernels } from '.'

const [WIDTH, HEIGHT] = [211, 157]

/** A thread that serves kernels, as the built command starts it. */
function serve(memory: WebAssembly.Memory, board: SharedArrayBuffer, number: number): Worker {
  return new Worker(path.resolve('dist/thread.mjs'), { workerData: { work: 'kernels', memory, board, number } })
}

/** More threads than this do not all get a turn: others have taken its parts before they wake. */
const CORES = availableParallelism() - 1

/** A team that is watched: how many others took part in a call, at the most. */
class Watched extends TeamKernels {
  most = 0

  constructor(
    memory: WebAssembly.Memory,
    private readonly board: SharedArrayBuffer,
    others: number,
  ) {
    super(memory, board, others)
  }

  override run(...call: Parameters<TeamKernels['run']>): void {
    super.run(...call)
    const [next, parts] = new Int32Array(this.board).subarray(6, 8)
    // Each of a call's threads looks once for a part when there is none left.
    this.most = Math.max(this.most, next - parts - 1)
  }
}

function frame(seed: number): Uint16Array {
  const picture = createPicture(WIDTH, HEIGHT)
  let state = seed
  picture.planes.forEach(({ data }) => data.forEach((_, i) => (data[i] = ((state = (state * 16807) % 2147483647) % 1000) / 1000)))
  return toInterleaved16(picture)
}

function fused(kernels: Kernels): Uint16Array {
  const accumulator = STYLES.auto.create({ width: WIDTH, height: HEIGHT, kernels })
  for (let index = 0; index < 3; index++)
    accumulator.add({ index, samples: frame(index + 1), motion: { ...IDENTITY, scale: 1 + 0.004 * index, rotation_rad: 0.002 * index }, gain: 1 })
  return accumulator.finish().samples.slice()
}

test.each([1, 2, 4])(
  '%d threads more give the same bytes as one alone',
  async (others) => {
    const [memory, board] = [createMemory(), createBoard()]
    const threads = Array.from({ length: others }, (_, k) => serve(memory, board, k + 1))
    const alone = fused(new WasmKernels())
    const team = new Watched(memory, board, others)
    try {
      // Threads start in their own time: whoever has come by then, the bytes are the same.
      for (const end = Date.now() + 30_000; team.most < Math.min(others, CORES) && Date.now() < end;) {
        expect(fused(team)).toEqual(alone)
        await new Promise((resolve) => setTimeout(resolve, 20))
      }
      expect(team.most).toBeGreaterThanOrEqual(Math.min(others, CORES))
    } finally {
      await Promise.all(threads.map((thread) => thread.terminate()))
    }
  },
  60_000,
)

test('a part that another thread cannot compute ends the call with an error, and does not stop it for ever', async () => {
  const [memory, board] = [createMemory(), createBoard()]
  const team = new TeamKernels(memory, board, 1)
  const thread = serve(memory, board, 1)
  // Places beyond the memory: kernels trap there. The first parts are computed by whoever comes first, so that it takes some calls.
  const call = () => team.run('raise', [0xf000_0000, 64, 1, 0, 2], 4096)
  try {
    for (const end = Date.now() + 20_000; new Int32Array(board)[8] === 0 && Date.now() < end;) {
      expect(call).toThrow()
      await new Promise((resolve) => setTimeout(resolve, 20))
    }
    expect(() => team.run('raise', [team.begin, 64, 1, 0, 2], 128)).toThrow(/Another thread could not compute/)
  } finally {
    await thread.terminate()
  }
})

test('threads that never come are not waited for', () => {
  const team = new Watched(createMemory(), createBoard(), 3)
  expect(fused(team)).toEqual(fused(new WasmKernels()))
  expect(team.most).toBe(0)
})
