import { execFileSync, spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { cpSync, createWriteStream, existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { pipeline } from 'node:stream/promises'
import SQLite from 'better-sqlite3'
import fc from 'fast-check'
import { ZipFile } from 'yazl'
import { connect, DATABASE_FILE, Folders } from '@/database'
import { restoreBackup, writeBackup } from '.'

let folder: string
let data: string
beforeEach(async () => {
  folder = mkdtempSync(path.join(tmpdir(), 'archive-'))
  data = path.join(folder, 'data')
  execFileSync('mkdir', ['-p', data])
  execFileSync('tar', ['xzf', path.resolve('database/testData/data-005.tar.gz'), '-C', data])
  await (await connect(data)).destroy()
})
afterEach(() => rmSync(folder, { recursive: true }))

const zip = () => path.join(folder, 'all.zip')
const sha = (file: string) => createHash('sha256').update(readFileSync(file)).digest('hex')

/** Every picture file below a data folder by its path, with its checksum. */
function files(where: string): Record<string, string> {
  return Object.fromEntries(
    ['runs', 'renders'].flatMap((part) => {
      const root = path.join(where, part)
      if (!existsSync(root)) return []
      return readdirSync(root, { recursive: true })
        .map((name) => path.join(part, String(name)))
        .filter((name) => statSync(path.join(where, name)).isFile())
        .map((name) => [name, sha(path.join(where, name))])
    }),
  )
}

test('a backup is a ZIP that other tools read, with the checksum of every file', async () => {
  const manifest = await writeBackup({ dataFolder: data, out: zip() })
  const out = path.join(folder, 'out')
  execFileSync('python3', ['-m', 'zipfile', '-t', zip()])
  execFileSync('python3', ['-m', 'zipfile', '-e', zip(), out])
  for (const [file, { sha256, bytes }] of Object.entries(manifest.files)) {
    expect(sha(path.join(out, file))).toBe(sha256)
    expect(statSync(path.join(out, file)).size).toBe(bytes)
  }
  expect(JSON.parse(readFileSync(path.join(out, 'manifest.json'), 'utf8'))).toEqual(manifest)
  expect(files(out)).toEqual(files(data))
  expect(readdirSync(folder).filter((name) => /part|\.db/.test(name))).toEqual([])
})

test('into an empty folder everything comes back, numbers included; again, nothing is added', async () => {
  await writeBackup({ dataFolder: data, out: zip() })
  const other = path.join(folder, 'other')
  expect(await restoreBackup(other, zip())).toMatchObject({ shoots: 2, runs: 2, frames: 10, renders: 2 })
  const [from, into] = [await connect(data), await connect(other)]
  for (const table of ['shoot', 'run', 'frame', 'field_entry'] as const)
    expect(await into.selectFrom(table).selectAll().execute()).toEqual(await from.selectFrom(table).selectAll().execute())
  const renders = await into.selectFrom('render').selectAll().execute()
  for (const { folder: name } of renders) expect(existsSync(path.join(other, 'renders', name, 'result.tif'))).toBe(true)
  await from.destroy()
  await into.destroy()
  expect(Object.values(files(other)).sort()).toEqual(Object.values(files(data)).sort())
  expect(await restoreBackup(other, zip())).toEqual({ shoots: 0, runs: 0, frames: 0, renders: 0, kit: 0, files: 0 })
  expect(readdirSync(path.join(other, 'incoming'))).toEqual([])
})

test('mends, recipes, what pictures are finished by and what was practised come along, and edits find their renders under other numbers', async () => {
  const db = await connect(data)
  const [first, second] = await db.selectFrom('render').select('id').orderBy('id').execute()
  const edits = [
    { id: 'a', kind: 'heal', path: [[3, 4]], radius_px: 5, softness: 0.5, opacity: 1 },
    { id: 'b', kind: 'render', file: `render-${first.id}`, path: [[3, 4]], radius_px: 5, softness: 0.5, opacity: 1 },
  ]
  const mend = { uid: 'mend', render_id: second.id, title: 'Mend', base_json: '"fused"', created_at: 'then' }
  const { id: mend_id } = await db.insertInto('mend').values(mend).returning('id').executeTakeFirstOrThrow()
  for (const edit of edits)
    await db
      .insertInto('mend_edit')
      .values({ mend_id, id: edit.id, edit_json: JSON.stringify(edit), created_at: 'then' })
      .execute()
  await db.insertInto('recipe').values({ uid: 'recipe', name: 'Web', recipe_json: '{"steps":[]}', created_at: 'then' }).execute()
  await db.insertInto('development').values({ render_id: second.id, recipe_json: '{"steps":[]}', changed_at: 'then' }).execute()
  await db.updateTable('render').set({ needed_json: '{"fewest":{}}' }).where('id', '=', first.id).execute()
  await db.insertInto('practice_try').values({ uid: 't', exercise: 'byHand', level: 2, seed: 7, percent: 81, took_s: 40, created_at: 'then' }).execute() // prettier-ignore
  await db.destroy()
  await writeBackup({ dataFolder: data, out: zip() })

  const other = path.join(folder, 'other')
  const own = await connect(other)
  // Its number is taken here, and a recipe has the same name.
  const shoot = await own.insertInto('shoot').values({ uid: 's', title: 'Own', subject: '', scene: 'nib', plan_json: '{}', created_at: 'then', changed_at: 'then' }).returning('id').executeTakeFirstOrThrow() // prettier-ignore
  const run = await own.insertInto('run').values({ uid: 'r', shoot_id: shoot.id, number: 1, source: 'imported', created_at: 'then' } as never).returning('id').executeTakeFirstOrThrow() // prettier-ignore
  for (const id of [first.id, second.id])
    await own.insertInto('render').values({ id, uid: `own ${id}`, folder: `own ${id}`, run_id: run.id, report_json: '{}', bytes: 1, created_at: 'then' }).execute() // prettier-ignore
  await own.insertInto('recipe').values({ uid: 'other', name: 'Web', recipe_json: '{"steps":[]}', created_at: 'then' }).execute()
  await own.destroy()
  await restoreBackup(other, zip())
  await restoreBackup(other, zip())
  const again = await connect(other)
  const renders = await again.selectFrom('render').select('id').where('uid', 'not like', 'own%').orderBy('id').execute()
  expect(renders.map(({ id }) => id)).not.toContain(first.id)
  const [{ render_id }] = await again.selectFrom('mend').select('render_id').execute()
  expect(render_id).toBe(renders[1].id)
  const kept = await again.selectFrom('mend_edit').select('edit_json').orderBy('number').execute()
  expect(kept.map(({ edit_json }) => JSON.parse(edit_json))).toEqual([edits[0], { ...edits[1], file: `render-${renders[0].id}` }])
  expect(await again.selectFrom('recipe').select('name').orderBy('name').execute()).toEqual([{ name: 'Web' }, { name: 'Web (2)' }])
  expect(await again.selectFrom('development').select('render_id').execute()).toEqual([{ render_id: renders[1].id }])
  expect(await again.selectFrom('render').select('needed_json').where('id', '=', renders[0].id).execute()).toEqual([{ needed_json: '{"fewest":{}}' }])
  expect(await again.selectFrom('practice_try').select(['exercise', 'percent']).execute()).toEqual([{ exercise: 'byHand', percent: 81 }])
  await again.destroy()
})

test('what another folder has stays as it is; what it lacks is added, under free numbers', async () => {
  await writeBackup({ dataFolder: data, out: zip() })
  const other = path.join(folder, 'other')
  const db = await connect(other)
  const plan_json = '{"own": true}'
  await db
    .insertInto('shoot')
    .values({ uid: 'own', title: 'Own', subject: '', scene: 'nib', plan_json, created_at: 'then', changed_at: 'then' })
    .execute()
  await db.destroy()
  await restoreBackup(other, zip())
  const again = await connect(other)
  const shoots = await again.selectFrom('shoot').select(['id', 'title']).orderBy('id').execute()
  expect(shoots).toHaveLength(3)
  expect(shoots[0]).toEqual({ id: 1, title: 'Own' })
  // A file that is gone comes back, the record untouched.
  const frame = await again.selectFrom('frame').selectAll().orderBy('id').executeTakeFirstOrThrow()
  const file = path.join(other, 'runs', String(frame.run_id), 'frames', frame.file)
  rmSync(file)
  expect(await restoreBackup(other, zip())).toMatchObject({ frames: 0, files: 1 })
  expect(sha(file)).toBe(frame.sha256)
  await again.destroy()
})

test('one shoot alone goes to a colleague', async () => {
  const db = await connect(data)
  const [first] = await db.selectFrom('shoot').select(['id', 'title']).orderBy('id').execute()
  await db.destroy()
  await writeBackup({ dataFolder: data, shoots: [first.id], out: zip() })
  const other = path.join(folder, 'other')
  await restoreBackup(other, zip())
  const into = await connect(other)
  expect(await into.selectFrom('shoot').select('title').execute()).toEqual([{ title: first.title }])
  expect(await into.selectFrom('frame').select('id').execute()).toHaveLength(10)
  await into.destroy()
})

test('a damaged archive is refused wherever it is damaged, and changes nothing', async () => {
  await writeBackup({ dataFolder: data, out: zip() })
  const whole = readFileSync(zip())
  const other = path.join(folder, 'other')
  await (await connect(other)).destroy()
  const before = sha(path.join(other, DATABASE_FILE))
  for (const at of [0.05, 0.2, 0.4, 0.6, 0.8, 0.95]) {
    const bad = Buffer.from(whole)
    const from = Math.floor(at * whole.length)
    for (let k = from; k < from + 40; k++) bad[k] ^= 0x5a
    writeFileSync(zip(), bad)
    await expect(restoreBackup(other, zip())).rejects.toMatchObject({ code: expect.stringMatching(/^archive\.(damaged|unreadable|outside)$/) })
  }
  for (const part of [0, 100, whole.length / 2, whole.length - 30]) {
    writeFileSync(zip(), whole.subarray(0, part))
    await expect(restoreBackup(other, zip())).rejects.toMatchObject({ code: 'archive.unreadable' })
  }
  expect(sha(path.join(other, DATABASE_FILE))).toBe(before)
  expect(files(other)).toEqual({})
})

test('an archive that would write elsewhere, or is of a newer version, is refused', async () => {
  await writeBackup({ dataFolder: data, out: zip() })
  const script = (body: string) => execFileSync('python3', ['-c', `import zipfile,json\nz=zipfile.ZipFile('${zip()}','a')\n${body}\nz.close()`])
  script("z.writestr('runs/1/frames/extra.jpg','x')")
  const other = path.join(folder, 'other')
  await expect(restoreBackup(other, zip())).rejects.toMatchObject({ code: 'archive.outside' })
  rmSync(zip())
  script(`z.writestr('manifest.json',json.dumps({'version':99,'made_at':'2030-01-01T00:00:00Z','files':{},'missing':[]}))`)
  await expect(restoreBackup(other, zip())).rejects.toMatchObject({ code: 'archive.newer' })
  await expect(restoreBackup(other, path.join(folder, 'nowhere.zip'))).rejects.toMatchObject({ code: 'archive.missing' })
})

test('the command backs up and restores, and says so in JSON or one line', () => {
  const run = (folderOf: string, ...args: string[]) =>
    spawnSync(process.execPath, ['dist/nitidus.mjs', ...args], { encoding: 'utf8', env: { ...process.env, NITIDUS_DATA: folderOf } })
  expect(run(data, 'backup', '--out', zip())).toMatchObject({ status: 0, stderr: '' })
  const other = path.join(folder, 'other')
  expect(JSON.parse(run(other, 'restore', zip()).stdout)).toMatchObject({ shoots: 2, frames: 10 })
  expect(Object.values(files(other)).sort()).toEqual(Object.values(files(data)).sort())
  cpSync(zip(), path.join(folder, 'cut.zip'))
  writeFileSync(path.join(folder, 'cut.zip'), readFileSync(zip()).subarray(0, 5000))
  expect(run(other, 'restore', path.join(folder, 'cut.zip'))).toMatchObject({ status: 2, stderr: expect.stringContaining('[archive.unreadable]') })
  expect(run(path.join(folder, 'empty'), 'backup', '--out', zip())).toMatchObject({ status: 2, stderr: expect.stringContaining('[archive.noData]') })
})

describe('an archive that somebody crafted', () => {
  const NAMES = ['..', '.', '', '../../somewhere', '../../../../secret.txt', 'a/b', 'a\\b', '/etc/passwd', 'a\0b']
  const PLACES_OF_NAMES = ['render.uid', 'render.folder', 'frame.uid', 'frame.file'] as const

  /** Writes an archive whose database was changed; its checksums are right, and it holds a file for each place that a move may start from. */
  async function craft(change: (db: SQLite.Database) => void): Promise<string> {
    const file = path.join(folder, 'crafted.db')
    cpSync(path.join(data, DATABASE_FILE), file)
    const db = new SQLite(file)
    db.pragma('journal_mode = DELETE')
    change(db)
    db.close()
    const contents: Record<string, Buffer> = { [DATABASE_FILE]: readFileSync(file), 'renders/1/nitidus.db': Buffer.from('taken over') }
    const sums = Object.entries(contents).map(([name, bytes]) => [
      name,
      { sha256: createHash('sha256').update(bytes).digest('hex'), bytes: bytes.length },
    ])
    const written = new ZipFile()
    for (const [name, bytes] of Object.entries(contents)) written.addBuffer(bytes, name)
    const manifest = { version: 1, made_at: new Date().toISOString(), files: Object.fromEntries(sums), missing: [] }
    written.addBuffer(Buffer.from(JSON.stringify(manifest)), 'manifest.json')
    written.end()
    await pipeline(written.outputStream, createWriteStream(zip()))
    rmSync(file)
    return zip()
  }

  /** Every file of the test's folder but the crafted archive, with its checksum. */
  const everything = () =>
    readdirSync(folder, { recursive: true })
      .map((name) => path.join(folder, String(name)))
      .filter((name) => name !== zip() && statSync(name).isFile() && !/-(wal|shm)$/.test(name))
      .map((name) => [name, sha(name)])
      .sort()

  test('names that lead out of their folder are refused, and nothing is written, changed or removed', async () => {
    const empty = path.join(folder, 'empty')
    await (await connect(empty)).destroy()
    await fc.assert(
      fc.asyncProperty(fc.constantFrom(...PLACES_OF_NAMES), fc.constantFrom(...NAMES), fc.boolean(), async (place, name, all) => {
        const [table, column] = place.split('.')
        const where = all && column !== 'uid' ? '' : 'WHERE id = 1'
        const archive = await craft((db) => void db.prepare(`UPDATE ${table} SET ${column} = ? ${where}`).run(name))
        const before = everything()
        for (const into of [data, empty])
          await expect(restoreBackup(into, archive)).rejects.toMatchObject({ code: expect.stringMatching(/^archive\.(outside|unreadable)$/) })
        expect(everything()).toEqual(before)
      }),
      { numRuns: 40 },
    )
  })

  test.each([
    ['a trigger', 'CREATE TRIGGER t AFTER INSERT ON shoot BEGIN DELETE FROM run; END'],
    ['a view', 'CREATE VIEW v AS SELECT * FROM shoot'],
    ['a virtual table', 'CREATE VIRTUAL TABLE v USING fts5(words)'],
    ['an unknown table', 'CREATE TABLE strange (a)'],
    ['an unknown column', 'ALTER TABLE shoot ADD COLUMN strange TEXT'],
  ])('%s in its database is refused', async (_, statement) => {
    const archive = await craft((db) => void db.exec(statement))
    const before = everything()
    await expect(restoreBackup(data, archive)).rejects.toMatchObject({ code: 'archive.unreadable' })
    expect(everything()).toEqual(before)
  })

  test('records that lead outside, left by an older restore, are never read or removed', async () => {
    for (const name of NAMES) {
      expect(() => new Folders(data).frame(1, name)).toThrow(expect.objectContaining({ code: 'data.outside' }))
      expect(() => new Folders(data).render(name)).toThrow(expect.objectContaining({ code: 'data.outside' }))
    }
    const db = await connect(data)
    await db.updateTable('frame').set({ file: '../../../../secret.txt' }).where('id', '=', 1).execute()
    await db.destroy()
    writeFileSync(path.join(folder, 'secret.txt'), 'secret')
    await expect(writeBackup({ dataFolder: data, out: zip() })).rejects.toMatchObject({ code: 'data.outside' })
  })
})
