import { readdir, rm, stat } from 'node:fs/promises'
import path from 'node:path'
import type { Folders } from '@/database'

/** Most that each kind of derived file may take, in GB: all of them can be made again. docs/architecture.md lists them. */
export const MOST_GB = { zoom: 10, developed: 20, finished: 5, registered: 2, thumbs: 1, maps: 1, previews: 1 }

/** Removes the oldest derived files of each kind until the rest fits its limit. */
export async function makeRoom(folders: Folders, most_GB: Record<string, number> = MOST_GB): Promise<void> {
  for (const [kind, most] of Object.entries(most_GB)) {
    const folder = folders.derived(kind)
    const entries = await Promise.all((await readdir(folder).catch(() => [])).map((name) => entryOf(path.join(folder, name))))
    let room = most * 1e9
    // A pyramid or a render's files go as a whole.
    for (const { entry, bytes } of entries.sort((a, b) => b.changed_ms - a.changed_ms))
      if ((room -= bytes) < 0) await rm(entry, { recursive: true, force: true })
  }
}

async function entryOf(entry: string): Promise<{ entry: string; bytes: number; changed_ms: number }> {
  const inside = await readdir(entry, { recursive: true }).catch(() => [])
  const sizes = await Promise.all([entry, ...inside.map((name) => path.join(entry, String(name)))].map((file) => stat(file).catch(() => undefined)))
  const bytes = sizes.reduce((sum, found) => sum + (found?.isFile() ? found.size : 0), 0)
  return { entry, bytes, changed_ms: sizes[0]?.mtimeMs ?? 0 }
}
