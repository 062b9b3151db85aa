import { Worker } from 'node:worker_threads'
import path from 'node:path'
import { STYLES } from '../../fuse'
import { createPicture, toInterleaved16 } from '../plane'
import { IDENTITY } from '../similarity'
import { createBoard, createMemory, TeamKernels, WasmKernels, type Kernels } from '.'

const [WIDTH, HEIGHT] = [211, 157]

/** A thread that serves kernels, from the built command. */
function serve(memory: WebAssembly.Memory, board: SharedArrayBuffer, number: number, others: number): Worker {
  return new Worker(path.resolve('dist/nitidus.mjs'), { workerData: { work: 'kernels', memory, board, number, others } })
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

test.each([1, 2, 4])('%d threads more give the same bytes as one alone', async (others) => {
  const [memory, board] = [createMemory(), createBoard()]
  const threads = Array.from({ length: others }, (_, k) => serve(memory, board, k + 1, others))
  try {
    await Promise.all(threads.map((thread) => new Promise((resolve, reject) => thread.once('online', resolve).once('error', reject))))
    expect(fused(new TeamKernels(memory, board, others))).toEqual(fused(new WasmKernels()))
  } finally {
    await Promise.all(threads.map((thread) => thread.terminate()))
  }
})
