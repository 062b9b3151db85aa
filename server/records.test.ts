import { execFileSync } from 'node:child_process'
import { mkdir, rm, writeFile } from 'node:fs/promises'
import path from 'node:path'
import { Readable } from 'node:stream'
import { AS_IT_IS } from '@/core/finish'
import { planSeries } from '@/core/plan'
import { NIB } from '@/demo/scenario'
import { registrationIn, renderDetail, renderOf, surfaceFactsOf } from '.'
import { framesOfRender } from './renders'
import { QUICK, ownServer } from './testRun'
import { demoShoot, picture } from './testServer'

const { server, run, fuse } = ownServer()

describe('records that stay true', () => {
  test('a run is measured by the plan it was shot by, whatever is planned later', async () => {
    const { shootId, runId } = await run(0)
    await server().context.shoots.replan(shootId, { ...demoShoot, plan: NIB.plan })
    const { runs, planRequest } = await server().context.shoots.detail(shootId)
    expect(planSeries(runs[0].planRequest!).magnification).toBe(planSeries((await detailOf(await server().newShoot())).planRequest!).magnification)
    expect(planSeries(planRequest!).magnification).not.toBe(planSeries(runs[0].planRequest!).magnification)
    // And so is what it is fused with: the size of a pixel on the subject.
    for (const [k, position_mm] of [0, 1, 2].entries())
      await server().context.store.add(runId, `g${k}.jpg`, Readable.from([await picture(64, 48, `#3${k}5`)]), position_mm)
    const { render } = await fuse(runId)
    const kept = await renderOf(server().context.db, render)
    const facts = (await surfaceFactsOf(server().context.db, kept))!
    expect(facts).toMatchObject({ unit: 'mm', slices: [0, 1, 2] })
    // 36 mm of sensor over 64 px, at the magnification that the run was planned with.
    expect(facts.pixelSize!.size_mm).toBeCloseTo(36 / 64 / planSeries(runs[0].planRequest!).magnification!, 6)
  })

  const detailOf = (shootId: number) => server().context.shoots.detail(shootId)

  test('what is fused is decided when it is asked for, by number', async () => {
    const { runId, shootId } = await run(4)
    const blocker = await server().context.work.fuse(runId, QUICK)
    const job = await server().context.work.fuse(runId, QUICK)
    const { runs } = await detailOf(shootId)
    await server().context.shoots.setAside(runs[0].frames[3].id, true)
    await server().context.jobs.outcome(blocker)
    const { render } = await server().context.jobs.outcome<'fuse'>(job)
    const { report } = renderDetail(await renderOf(server().context.db, render))
    expect(report.frames.map(({ uid }) => uid)).toEqual(runs[0].frames.map(({ uid }) => uid))
    expect(report.version).toBe(3)
  })

  test('the registration of a new and of an older render are read by one reader', async () => {
    const { runId } = await run()
    const { render } = await fuse(runId)
    const kept = await renderOf(server().context.db, render)
    const { folders } = server().context.store
    const now = await registrationIn(folders, kept)
    expect(now).toMatchObject({ version: 3, reference: 'f1.jpg', frames: [{ file: 'f0.jpg', scale: 1 }, { file: 'f1.jpg' }, { file: 'f2.jpg' }] })
    await rm(path.join(folders.render(kept.folder), 'registration.json'))
    await writeFile(path.join(folders.render(kept.folder), 'bends.json'), '{"frames":{}}')
    expect(await registrationIn(folders, kept)).toEqual(now)
    await writeFile(path.join(folders.render(kept.folder), 'registration.json'), '{"version":3,"frames":"none"}')
    await expect(registrationIn(folders, kept)).rejects.toMatchObject({ code: 'render.damaged' })
  })

  test('stored JSON that is not what it should be is reported, not crashed on', async () => {
    const { shootId } = await run(0)
    await server().context.db.updateTable('shoot').set({ plan_json: '{"optics": 7}' }).where('id', '=', shootId).execute()
    await expect(detailOf(shootId)).rejects.toMatchObject({ code: 'shoot.unreadable' })
    expect(await server().context.shoots.list()).toMatchObject({ shoots: [{ id: shootId, plan: null }], found: 1, all: 1 })
  })

  /** Opens the data folder that an older version left. */
  async function older(name: string) {
    await server().context.close()
    await rm(server().folder, { recursive: true })
    await mkdir(server().folder)
    execFileSync('tar', ['xzf', path.resolve('database/testData', name), '-C', server().folder])
    return server().open()
  }

  test.each([
    ['data-005.tar.gz', { frames: [4, 6], renders: 2, field: 2 }],
    ['data-006.tar.gz', { frames: [4, 6], renders: 2, field: 2 }],
    ['data-015.tar.gz', { frames: [4, 4], renders: 3, field: 3 }],
  ])('%s, the folder of an older version, opens with all its runs and renders, and they work', async (name, held) => {
    const { shoots, store, db, jobs, work } = await older(name)
    const [shoot] = (await shoots.list()).shoots.filter(({ state }) => state === 'fused')
    const { runs, field } = await shoots.detail(shoot.id)
    expect(runs.map(({ frames }) => frames.length)).toEqual(held.frames)
    expect(runs.flatMap(({ frames }) => frames).every(({ here }) => here)).toBe(true)
    expect(runs.every(({ survey, frames }) => !survey || survey.frames.length === frames.length)).toBe(true)
    expect(field).toHaveLength(held.field)
    const renders = runs.flatMap((run) => run.renders)
    expect(renders).toHaveLength(held.renders)
    for (const { id, report } of renders) {
      expect((await registrationIn(store.folders, await renderOf(db, id))).frames).toHaveLength(report.frameCount)
      await jobs.outcome<'finish'>(await work.finish(id, { recipe: AS_IT_IS, format: 'jpg' }))
    }
    const checked = held.frames.reduce((a, b) => a + b)
    expect(await jobs.outcome<'check'>(await jobs.add('check', {}, {}))).toEqual({ checked, missing: [], changed: [] })
    await jobs.outcome<'survey'>(await work.survey(runs[0].id))
  })

  test('renders of restored shoots, whose reports name frames of others by number, find their own frames', async () => {
    const { shoots, db, jobs, work } = await older('data-018.tar.gz')
    for (const { id } of (await shoots.list()).shoots)
      for (const { frames, renders } of (await shoots.detail(id)).runs)
        for (const render of renders) {
          const row = await renderOf(db, render.id)
          const { report } = renderDetail(row)
          const own = new Map(frames.map(({ name, uid }) => [name, uid]))
          expect(report.frames.map(({ uid }) => uid)).toEqual(report.frames.map(({ file }) => own.get(file)))
          expect((await framesOfRender(db, row)).map(({ name }) => name).sort()).toEqual(report.frames.map(({ file }) => file).sort())
        }
    // The places of a restored render are looked for in its own frames.
    const restored = await db.selectFrom('render').select('id').orderBy('id', 'desc').executeTakeFirstOrThrow()
    await jobs.outcome<'inspect'>(await work.inspect(restored.id))
  })

  test('an older folder keeps mends, recipes, how raw files were developed, and no time from the future', async () => {
    const { shoots, mends, recipes, jobs, work, logbook } = await older('data-015.tar.gz')
    const [shoot] = (await shoots.list()).shoots
    // One tick of its log is from 2031, by a phone whose clock was wrong.
    expect(shoot.changed_at < '2031').toBe(true)
    expect(shoot.fieldCount).toBe(3)
    const { runs } = await shoots.detail(shoot.id)
    const mended = runs.flatMap(({ renders }) => renders).find(({ report }) => report.mend)!
    const before = runs.flatMap(({ renders }) => renders).find(({ uid }) => uid === mended.report.mend!.of)!
    const [mend] = await mends.of(before.id)
    expect(mend.edits.map(({ kind }) => kind)).toEqual(['donor', 'donor', 'undo'])
    // The edits are carried out again, on what the older version fused.
    const { render } = await jobs.outcome<'mend'>(await work.mend(mend.id))
    expect((await shoots.detail(shoot.id)).runs.flatMap(({ renders }) => renders).find(({ id }) => id === render)!.report.mend!.edits).toBe(1)
    expect((await recipes.all()).map(({ name }) => name)).toEqual(['Catalogue'])
    const raw = runs.find(({ frames }) => frames[0].name.endsWith('.dng'))!
    expect(raw.development).toMatchObject({ like: 'frame_001.dng' })
    expect((await logbook.all()).map(({ run }) => run)).toEqual(expect.arrayContaining(runs.map(({ id }) => id)))
  })
})
