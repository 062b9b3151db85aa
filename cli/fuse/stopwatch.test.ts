import { setTimeout } from 'node:timers/promises'
import { Stopwatch } from './stopwatch'

async function* three() {
  for (const value of [1, 2, 3]) {
    await setTimeout(20)
    yield value
  }
}

test('waiting for what comes bit by bit is timed, the work on it is not', async () => {
  const watch = new Stopwatch()
  const seen: number[] = []
  for await (const value of watch.timeEach('decode', three())) {
    seen.push(value)
    await watch.time('register', () => setTimeout(60))
  }
  const { decode, register, fuse, total } = watch.timings_s()
  expect(seen).toEqual([1, 2, 3])
  expect(decode).toBeGreaterThanOrEqual(0.055)
  expect(register).toBeGreaterThanOrEqual(0.175)
  expect(fuse).toBe(0)
  // All of it, once: nothing is counted in two stages.
  expect(decode + register).toBeLessThanOrEqual(total + 0.003)
})

test('what fails is timed as well, and fails', async () => {
  const watch = new Stopwatch()
  await expect(
    watch.time('encode', async () => {
      await setTimeout(20)
      throw new Error('The disk is full.')
    }),
  ).rejects.toThrow('The disk is full.')
  expect(watch.timings_s().encode).toBeGreaterThanOrEqual(0.015)
})
