import { readFile } from 'node:fs/promises'
import path from 'node:path'
import { readSamples } from '@/codec'
import type { MendEdit } from '@/core/mend'
import { Readable } from 'node:stream'
import sharp from 'sharp'
import { placesIn, renderOf } from './renders'
import { ownServer, QUICK } from './testRun'

const { server } = ownServer()

/** Frames of noise, so that pixels show which frame they come from. */
const noise = (seed: number) => {
  const samples = Buffer.from(Uint8Array.from({ length: 64 * 48 * 3 }, (_, i) => 60 + ((i * (seed * 97 + 31)) % 120)))
  return sharp(samples, { raw: { width: 64, height: 48, channels: 3 } })
    .png()
    .toBuffer()
}

async function fusedRun() {
  const { context } = server()
  const runId = await server().newRun()
  for (let k = 0; k < 3; k++) await context.store.add(runId, `f${k}.png`, Readable.from([await noise(k)]))
  const { render } = await context.jobs.outcome<'fuse'>(await context.work.fuse(runId, QUICK))
  return { runId, render }
}
const donor = (id: string, frame: string, x: number): MendEdit => ({
  id,
  kind: 'donor',
  frame,
  path: [[x, 24]],
  radius_px: 8,
  softness: 0.5,
  opacity: 1,
})

test('a mended picture is a render of its own; the one it began with stays as it is', async () => {
  const { context } = server()
  const { render } = await fusedRun()
  const fileOf = async (id: number) => path.join(context.store.folders.render((await renderOf(context.db, id)).folder), 'result.tif')
  const before = await readFile(await fileOf(render))
  const mend = await context.mends.begin(render, 'Left side', 'fused')
  await context.mends.add(mend, [donor('a', 'f2.png', 20), donor('b', 'f1.png', 44), { id: 'c', kind: 'undo', of: 'b' }])
  const { render: mended } = await context.jobs.outcome<'mend'>(await context.work.mend(mend))
  expect(await readFile(await fileOf(render))).toEqual(before)
  const [base, out, frame] = await Promise.all([
    readSamples(await fileOf(render)),
    readSamples(await fileOf(mended)),
    sharp(await noise(2))
      .raw()
      .toBuffer(),
  ])
  const at = (x: number, y: number) => 3 * (y * 64 + x)
  for (let c = 0; c < 3; c++) {
    expect(Math.abs(out.samples[at(20, 24) + c] - 257 * frame[at(20, 24) + c])).toBeLessThanOrEqual(2)
    // Undone strokes and pixels outside every stroke are unchanged.
    expect(out.samples[at(44, 24) + c]).toBe(base.samples[at(44, 24) + c])
    expect(out.samples[at(30, 24) + c]).toBe(base.samples[at(30, 24) + c])
  }
  const { runs } = await context.shoots.detail((await context.shoots.list()).shoots[0].id)
  expect(runs[0].renders.map(({ id, report }) => [id, report.mend?.of, report.mend?.edits])).toEqual([
    [mended, runs[0].renders.find(({ id }) => id === render)!.uid, 1],
    [render, undefined, undefined],
  ])
})

test('two tabs that mend one picture lose no edit, and one that arrives twice is there once', async () => {
  const { mends } = server().context
  const mend = await mends.begin((await fusedRun()).render, 'Mend', 'fused')
  await Promise.all([
    mends.add(mend, [donor('a', 'f0.png', 10), donor('b', 'f1.png', 20)]),
    mends.add(mend, [donor('c', 'f2.png', 30)]),
    mends.add(mend, [donor('a', 'f0.png', 10)]),
  ])
  const [{ edits }] = await mends.of((await server().context.mends.document(mend)).render.id)
  expect(edits.map(({ id }) => id).sort()).toEqual(['a', 'b', 'c'])
})

test('a frame that is not part of the render is refused, and nothing of what came with it is kept', async () => {
  const { mends, work } = server().context
  const { render } = await fusedRun()
  const mend = await mends.begin(render, 'Mend', 'fused')
  await expect(mends.add(mend, [donor('a', 'f0.png', 10), donor('b', 'other.png', 20)])).rejects.toMatchObject({ code: 'mend.frameUnknown' })
  expect((await mends.of(render))[0].edits).toEqual([])
  await expect(work.mend(mend)).rejects.toMatchObject({ code: 'mend.nothing' })
  await expect(mends.add(4711, [donor('a', 'f0.png', 10)])).rejects.toMatchObject({ code: 'mend.gone' })
  await expect(mends.begin(render, 'x', { frame: 'nothing.png' })).rejects.toMatchObject({ code: 'mend.frameUnknown' })
})

test('a stroke that lies outside ends the job with a sentence, and leaves no render', async () => {
  const { mends, work, jobs, shoots } = server().context
  const { render } = await fusedRun()
  const mend = await mends.begin(render, 'Mend', 'fused')
  await mends.add(mend, [donor('far', 'f0.png', 5000)])
  await expect(work.mend(mend).then((job) => jobs.outcome(job))).rejects.toMatchObject({ code: 'mend.outside' })
  const { runs } = await shoots.detail((await shoots.list()).shoots[0].id)
  expect(runs[0].renders).toHaveLength(1)
})

test('places worth a look are kept with the render, and are none before they were looked for', async () => {
  const { context } = server()
  const { render } = await fusedRun()
  const placesOf = async () => placesIn(context.store.folders, await renderOf(context.db, render))
  expect(await placesOf()).toEqual({ places: null })
  const found = await context.jobs.outcome<'inspect'>(await context.work.inspect(render))
  expect(await placesOf()).toEqual(found)
  expect(found.places).toEqual(expect.any(Array))
})

test('another render is painted from only where it lies on this one px by px', async () => {
  const { context } = server()
  const { runId, render } = await fusedRun()
  const { render: lace } = await context.jobs.outcome<'fuse'>(await context.work.fuse(runId, { ...QUICK, style: 'lace' }))
  const { render: framedElse } = await context.jobs.outcome<'fuse'>(await context.work.fuse(runId, { ...QUICK, reference: 3 }))
  const from = (id: string, other: number | string): MendEdit => ({
    id,
    kind: 'render',
    file: `render-${other}`,
    path: [[20, 24]],
    radius_px: 8,
    softness: 0,
    opacity: 1,
  })
  const mend = await context.mends.begin(render, 'From lace', 'fused')
  await expect(context.mends.add(mend, [from('x', framedElse)])).rejects.toMatchObject({ code: 'mend.otherRender' })
  await expect(context.mends.add(mend, [from('y', 'no')])).rejects.toMatchObject({ code: 'mend.otherRender' })
  await context.mends.add(mend, [from('a', lace)])
  const { render: mended } = await context.jobs.outcome<'mend'>(await context.work.mend(mend))
  const fileOf = async (id: number) => path.join(context.store.folders.render((await renderOf(context.db, id)).folder), 'result.tif')
  const [out, other, base] = await Promise.all([mended, lace, render].map(async (id) => readSamples(await fileOf(id))))
  const at = (x: number, y: number) => 3 * (y * 64 + x)
  for (let c = 0; c < 3; c++) {
    expect(out.samples[at(20, 24) + c]).toBe(other.samples[at(20, 24) + c])
    expect(out.samples[at(40, 24) + c]).toBe(base.samples[at(40, 24) + c])
  }
})

test('lines that are dragged are kept, those of a frame that is none are refused, and what was kept stays', async () => {
  const { context } = server()
  const { render } = await fusedRun()
  const lines = (y: number) => ({ boundaries: [{ frame: 'f0.png', until: [[0, y] as [number, number]], width_px: 4 }, { frame: 'f2.png' }] })
  const mend = await context.mends.begin(render, 'Composed', lines(20))
  expect((await context.mends.rebase(mend, lines(30))).base).toMatchObject(lines(30))
  const strange = { boundaries: [...lines(10).boundaries.slice(0, 1), { frame: 'nobody.png' }] }
  await expect(context.mends.rebase(mend, strange)).rejects.toMatchObject({ code: 'mend.frameUnknown' })
  expect((await context.mends.of(render))[0].base).toMatchObject(lines(30))
})
