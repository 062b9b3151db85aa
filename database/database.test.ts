import { execFileSync, spawnSync } from 'node:child_process'
import { existsSync, mkdirSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import SQLite from 'better-sqlite3'
import { sql } from 'kysely'
import { connect, DATABASE_FILE, explained, lockData } from '.'

let folder: string
beforeEach(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'database-'))
})
afterEach(() => rmSync(folder, { recursive: true }))

/** A data folder as version 5 left it: a shoot with two runs, one fused twice. */
const older = () => execFileSync('tar', ['xzf', path.resolve('database/testData/data-005.tar.gz'), '-C', folder])
const raw = () => new SQLite(path.join(folder, DATABASE_FILE))

test('every commit is flushed to the disk, and records that others refer to cannot vanish', async () => {
  const db = await connect(folder)
  const pragma = async (name: string) => Object.values((await sql.raw<object>(`pragma ${name}`).execute(db)).rows[0])[0]
  // 2 is FULL: with a write-ahead log, SQLite's documentation asks for it where commits must outlive a power cut.
  expect([await pragma('journal_mode'), await pragma('synchronous'), await pragma('foreign_keys')]).toEqual(['wal', 2, 1])
  await db.destroy()
})

test('a migration that fails half way leaves the folder as it was, and goes through when it can', async () => {
  older()
  const before = raw()
  // In the way of the last part of a migration that has changed several tables by then.
  before.exec('create table job_new (x)')
  before.close()
  await expect(connect(folder)).rejects.toMatchObject({ code: 'SQLITE_ERROR' })
  const between = raw()
  expect(between.prepare("select name from pragma_table_info('frame')").pluck().all()).not.toContain('uid')
  between.exec('drop table job_new')
  between.close()
  const db = await connect(folder)
  expect(await db.selectFrom('frame').select('uid').execute()).toHaveLength(10)
  await db.destroy()
})

test('a folder that was left anywhere in its first start, or in an upgrade, opens', async () => {
  // A file may grow to so many kB and no more: the process ends where it would write beyond.
  for (const upgrade of [false, true])
    for (const most_kB of [4, 12, 40, 60, 90, 120]) {
      rmSync(folder, { recursive: true })
      mkdirSync(folder)
      if (upgrade) older()
      const command = `ulimit -f ${most_kB}; exec "${process.execPath}" dist/nitidus.mjs restore nowhere.zip`
      spawnSync('bash', ['-c', command], { env: { ...process.env, NITIDUS_DATA: folder } })
      const cut = `ulimit -f ${most_kB}; exec "${process.execPath}" -e "new (require('better-sqlite3'))('${path.join(folder, DATABASE_FILE)}').pragma('journal_mode = WAL')"`
      spawnSync('bash', ['-c', cut])
      const db = await connect(folder)
      expect(await db.selectFrom('kit_item').select('id').execute()).not.toHaveLength(0)
      await db.destroy()
    }
})

test('numbers, uids and folders of older records stay distinct, and what referred to them still does', async () => {
  older()
  const db = await connect(folder)
  const renders = await db.selectFrom('render').selectAll().orderBy('id').execute()
  expect(renders.map(({ id, folder: name, job_id }) => [id, name, job_id])).toEqual([
    [1, '1', 2],
    [2, '2', 3],
  ])
  for (const { folder: name } of renders) expect(existsSync(path.join(folder, 'renders', name, 'result.tif'))).toBe(true)
  const runs = await db.selectFrom('run').selectAll().execute()
  const [shoot] = await db.selectFrom('shoot').selectAll().orderBy('id').execute()
  expect(runs.map(({ plan_json }) => plan_json)).toEqual([shoot.plan_json, shoot.plan_json])
  expect(await sql`pragma foreign_key_check`.execute(db)).toMatchObject({ rows: [] })
  await db.deleteFrom('shoot').where('id', '=', shoot.id).execute()
  expect(await db.selectFrom('frame').select('id').execute()).toEqual([])
  await db.destroy()
})

test('a damaged database, one of a newer version and a file in the way get a sentence each', async () => {
  await (await connect(folder)).destroy()
  const file = raw()
  file.exec("insert into kysely_migration values ('999-later', '2030-01-01')")
  file.close()
  await expect(connect(folder)).rejects.toMatchObject({ code: 'data.newer' })
  rmSync(path.join(folder, DATABASE_FILE))
  spawnSync('bash', ['-c', `head -c 20000 /dev/zero | tr '\\0' 'x' > "${path.join(folder, DATABASE_FILE)}"`])
  await expect(connect(folder)).rejects.toMatchObject({ code: 'data.damaged' })
})

test('errors of disk and database become sentences by their codes', () => {
  const of = (code: string) => (explained(Object.assign(new Error('x'), { code })) as { code?: string }).code
  expect(['ENOSPC', 'EDQUOT', 'SQLITE_FULL', 'SQLITE_IOERR_WRITE'].map(of)).toEqual(Array(4).fill('disk.full'))
  expect(['SQLITE_CORRUPT', 'SQLITE_NOTADB'].map(of)).toEqual(Array(2).fill('data.damaged'))
  expect(of('SQLITE_BUSY')).toBe('data.busy')
  expect(of('EACCES')).toBe('disk.denied')
  const other = new TypeError('ours')
  expect(explained(other)).toBe(other)
})

test('a data folder is held by one process only, and by none once that is gone, however it went', () => {
  const lock = lockData(folder)
  expect(() => lockData(folder)).toThrow(expect.objectContaining({ code: 'data.inUse' }))
  const other = () =>
    spawnSync(process.execPath, ['dist/nitidus.mjs', 'restore', 'nowhere.zip'], { encoding: 'utf8', env: { ...process.env, NITIDUS_DATA: folder } })
  expect(other().stderr).toContain('[data.inUse]')
  lock.release()
  expect(other().stderr).toContain('[archive.missing]')
  const script = `const S = require('better-sqlite3'); const s = new S('${path.join(folder, 'nitidus.lock')}'); s.exec('BEGIN EXCLUSIVE'); process.kill(process.pid, 'SIGKILL')`
  expect(spawnSync(process.execPath, ['-e', script]).signal).toBe('SIGKILL')
  lockData(folder).release()
})
