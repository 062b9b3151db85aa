import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { say } from '@/core/words'
import { runEngine, type EngineEvent } from './jobs/engine'

let folder: string
beforeEach(async () => {
  folder = await mkdtemp(path.join(tmpdir(), 'engine-'))
})
afterEach(() => rm(folder, { recursive: true }))

/** Runs a little script in the engine's place. */
async function run(script: string, signal = new AbortController().signal) {
  const engine = path.join(folder, 'engine.mjs')
  await writeFile(engine, script)
  const events: EngineEvent[] = []
  const end = await runEngine(engine, 'job.json', (event) => events.push(event), signal)
  return { end, events }
}

test('passes on progress in order and ends well', async () => {
  const { end, events } = await run(`for (const frame of [1, 2, 3]) console.error(JSON.stringify({ stage: 'fuse', frame, of: 3 }))`)
  expect(end).toEqual({ kind: 'done' })
  expect(events.map(({ frame }) => frame)).toEqual([1, 2, 3])
})

test('is asked to run a job file and to tell its progress', async () => {
  const { events } = await run(`console.error(JSON.stringify({ stage: process.argv.slice(2).join(' '), frame: 0, of: 0 }))`)
  expect(events[0].stage).toBe('run job.json --progress')
})

test('a user’s mistake is reported in the engine’s own sentence', async () => {
  const { end } = await run(
    `console.error('{"stage":"register","frame":1,"of":2}'); console.error('{"stage":"failed","code":"picture.damaged","text":"b.jpg is damaged."}'); process.exitCode = 2`,
  )
  expect(end).toEqual({ kind: 'failed', sentence: { code: 'picture.damaged', text: 'b.jpg is damaged.' } })
})

test('broken lines of progress do no harm', async () => {
  const { end, events } = await run(`console.error('{"stage":'); console.error('{}')`)
  expect(end).toEqual({ kind: 'done' })
  expect(events).toEqual([{}])
})

test('what a crash writes goes to the log', async () => {
  const complained = jest.spyOn(console, 'error').mockImplementation(() => undefined)
  const { end } = await run(`for (let k = 0; k < 50; k++) console.error('line ' + k); throw new Error('crashed here')`)
  const logged = complained.mock.calls.flat().join('\n')
  complained.mockRestore()
  expect(end).toEqual({ kind: 'failed', sentence: say('job.silent') })
  expect(logged).toContain('crashed here')
  expect(logged).not.toContain('line 1\n')
})

test('an engine that dies without a word is still reported', async () => {
  const { end } = await run('process.exit(3)')
  expect(end).toEqual({ kind: 'failed', sentence: say('job.silent') })
})

test('one that is killed says that the frames are untouched', async () => {
  const { end } = await run(`process.kill(process.pid, 'SIGKILL'); setTimeout(() => {}, 1000)`)
  expect(end).toEqual({ kind: 'failed', sentence: say('job.killed') })
})

test('running out of memory ends the engine, not the server', async () => {
  const { end } = await run(`process.abort()`)
  expect(end).toEqual({ kind: 'failed', sentence: say('job.killed') })
})

test('cancelling kills it at once, however busy it is', async () => {
  const controller = new AbortController()
  setTimeout(() => controller.abort(), 400)
  const started = performance.now()
  const { end } = await run('for (;;);', controller.signal)
  expect(end).toEqual({ kind: 'cancelled' })
  expect(performance.now() - started).toBeLessThan(4000)
})

test('cancelled before it begins, it does nothing', async () => {
  const { end } = await run('setTimeout(() => {}, 5000)', AbortSignal.abort())
  expect(end).toEqual({ kind: 'cancelled' })
})
