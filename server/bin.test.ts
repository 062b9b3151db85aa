import { createReadStream, existsSync } from 'node:fs'
import { mkdir, readdir, stat, utimes, writeFile } from 'node:fs/promises'
import path from 'node:path'
import { AS_IT_IS } from '@/core/finish'
import { finishedFile, framesToFuse, renderOf } from '.'
import { makeRoom, MOST_GB } from './pictures'
import { QUICK, ownServer } from './testRun'
import { TestServer } from './testServer'

const { server, run, fuse } = ownServer()

describe('the bin', () => {
  test.each(['shoot', 'run', 'frame', 'render'] as const)(
    'a %s goes there, comes back as it was, and goes for good when the bin is emptied',
    async (kind) => {
      const { shootId, runId, pictures } = await run()
      const { render } = await fuse(runId)
      const { bin, db, store, shoots } = server().context
      const frame = await db.selectFrom('frame').selectAll().where('run_id', '=', runId).orderBy('id').executeTakeFirstOrThrow()
      const id = { shoot: shootId, run: runId, frame: frame.id, render }[kind]
      const before = await shoots.list()
      const folder = store.folders.render((await renderOf(db, render)).folder)
      await bin.put(kind, id)
      await expect(bin.put(kind, id)).rejects.toMatchObject({ code: `${kind}.gone` })
      expect(await shoots.list()).not.toEqual(before)
      const [binned] = await bin.list()
      expect(binned).toMatchObject({ kind, id })
      expect(binned.bytes).toBeGreaterThan(0)
      await bin.putBack(kind, id)
      expect(await shoots.list()).toEqual(before)
      await expect(bin.putBack(kind, id)).rejects.toMatchObject({ code: 'bin.gone' })

      await bin.put(kind, id)
      // Too early: it is kept for 30 days.
      expect(await bin.empty()).toBe(0)
      await db
        .updateTable(kind)
        .set({ binned_at: new Date(Date.now() - 31 * 86_400_000).toISOString() })
        .where('id', '=', id)
        .execute()
      expect(await bin.empty()).toBe(1)
      expect(await bin.list()).toEqual([])
      const frames = await db.selectFrom('frame').select('id').execute()
      expect(frames).toHaveLength({ shoot: 0, run: 0, frame: 2, render: 3 }[kind])
      expect(existsSync(store.folders.frame(runId, frame.file))).toBe(kind === 'render')
      expect(existsSync(folder)).toBe(kind === 'frame')
      if (kind === 'frame') await server().add(runId, 'f0.jpg', pictures[0])
    },
  )

  test('nothing is deleted while a job works on it', async () => {
    const { runId } = await run()
    const job = await server().context.work.fuse(runId, QUICK)
    const { id } = await server().context.db.selectFrom('frame').select('id').executeTakeFirstOrThrow()
    await expect(server().context.bin.put('run', runId)).rejects.toMatchObject({ code: 'run.busy' })
    await expect(server().context.bin.put('frame', id)).rejects.toMatchObject({ code: 'run.busy' })
    await server().context.jobs.outcome(job)
    await server().context.bin.put('run', runId)
  })

  test('a frame that is brought again comes out of the bin', async () => {
    const { runId, pictures } = await run()
    const frame = await server().context.db.selectFrom('frame').selectAll().orderBy('id').executeTakeFirstOrThrow()
    await server().context.bin.put('frame', frame.id)
    // It is surveyed without the frame in the bin.
    await server().context.jobs.outcome<'survey'>(await server().context.work.survey(runId))
    expect((await server().add(runId, 'f0.jpg', pictures[0])).id).toBe(frame.id)
    // With the frame back that survey no longer holds, and the frame is fused in its place again.
    const { survey_json } = await server().context.db.selectFrom('run').select('survey_json').where('id', '=', runId).executeTakeFirstOrThrow()
    expect(survey_json).toBeNull()
    expect((await framesToFuse(server().context.db, runId))[0].id).toBe(frame.id)
    expect(await server().context.bin.list()).toEqual([])
  })
})

describe('room', () => {
  test('derived files stay within the limit of their kind, the oldest go first, a pyramid as a whole', async () => {
    const { folders } = server().context.store
    for (const [k, name] of ['old', 'middle', 'new'].entries()) {
      await mkdir(folders.derived('zoom', name), { recursive: true })
      for (const tile of ['a', 'b']) await writeFile(path.join(folders.derived('zoom', name), tile), Buffer.alloc(500))
      await utimes(folders.derived('zoom', name), 1000 + k, 1000 + k)
    }
    await makeRoom(folders, { zoom: 2100 / 1e9 })
    expect((await readdir(folders.derived('zoom'))).sort()).toEqual(['middle', 'new'])
    await makeRoom(folders, { zoom: 1900 / 1e9 })
    expect(await readdir(folders.derived('zoom'))).toEqual(['new'])
    expect(Object.keys(MOST_GB)).toEqual(expect.arrayContaining(await readdir(folders.derived())))
  })

  test('is shown, and what can be made again is freed and made again', async () => {
    const { runId } = await run()
    const { render } = await fuse(runId)
    const { jobs, work, storage } = server().context
    const { name } = await jobs.outcome<'finish'>(await work.finish(render, { recipe: AS_IT_IS, format: 'png' }))
    const { db, store } = server().context
    expect(existsSync((await finishedFile(db, store.folders, render, name)).file)).toBe(true)
    const full = await storage.detail()
    expect(full.originals).toBeGreaterThan(500)
    expect(full.renders).toBeGreaterThan(5000)
    expect(full.derived).toBeGreaterThan(100)
    await storage.free()
    expect((await storage.detail()).derived).toBe(0)
    await expect(finishedFile(db, store.folders, render, name)).rejects.toMatchObject({ code: 'render.notKept' })
    const again = await jobs.outcome<'finish'>(await work.finish(render, { recipe: AS_IT_IS, format: 'png' }))
    expect(existsSync((await finishedFile(db, store.folders, render, again.name)).file)).toBe(true)
  })

  test('a backup is a job whose file can be fetched, and restored from another folder’s screen', async () => {
    await run()
    const { jobs, storage } = server().context
    const { name, bytes } = await jobs.outcome<'backup'>(await jobs.add('backup', {}, {}))
    const file = await storage.backupFile(name)
    expect((await stat(file)).size).toBe(bytes)
    await expect(storage.backupFile('../nitidus.db')).rejects.toMatchObject({ code: 'archive.missing' })
    const other = await TestServer.start()
    const restored = await other.context.jobs.outcome<'restore'>(await other.context.storage.restore(createReadStream(file)))
    expect(restored).toMatchObject({ shoots: 1, runs: 1, frames: 3 })
    expect(await readdir(path.join(other.folder, 'incoming'))).toEqual([])
    await other.stop()
  })
})
