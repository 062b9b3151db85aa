import { mkdtemp, readdir, rm, stat } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import path from 'node:path'
import SQLite from 'better-sqlite3'
import { restoreBackup } from '@/archive'
import { PAST_YEAR, YEAR_FOLDER } from '@/demo/year'

test('the past year is there, each shoot in a file small enough to be kept anywhere, and comes into an empty data folder', async () => {
  const names = (await readdir(YEAR_FOLDER)).sort()
  expect(names).toEqual(PAST_YEAR.map(({ at }) => `${at.slice(0, 10)}.zip`))
  const folder = await mkdtemp(path.join(tmpdir(), 'year-'))
  try {
    for (const name of names) {
      expect((await stat(path.join(YEAR_FOLDER, name))).size).toBeLessThan(1_000_000)
      await restoreBackup(folder, path.join(YEAR_FOLDER, name))
    }
    const stored = new SQLite(path.join(folder, 'nitidus.db'), { readonly: true })
    const titles = stored.prepare('SELECT title FROM shoot ORDER BY created_at').pluck().all()
    const renders = stored.prepare('SELECT count(*) FROM render').pluck().get()
    stored.close()
    expect(titles).toEqual(PAST_YEAR.map(({ shoot }) => shoot.title))
    expect(renders).toBe(PAST_YEAR.reduce((sum, { styles }) => sum + styles.length, 0))
  } finally {
    await rm(folder, { recursive: true })
  }
})
