import { lstat, readdir, realpath, stat } from 'node:fs/promises'
import path from 'node:path'
import { readFacts } from '@/codec'
import { isPicture, isRaw, type SizedName } from '@/core/batch'
import { refusal } from '@/core/words'

/** A folder that may be imported, where it really lies, within the root that may be. */
export interface ImportFolder {
  root: string
  inside: string
}

/**
 * A folder inside the import root, and the pictures in it in the order of their names.
 * @throws Refusal where it leads out of the root, is none, or holds no pictures.
 */
export async function openImport(importRoot: string, folder: string): Promise<ImportFolder & { names: string[] }> {
  const from = await openWatched(importRoot, folder)
  const names = (await readdir(from.inside))
    .filter((name) => isPicture(name) && !name.startsWith('.'))
    .sort(new Intl.Collator('en', { numeric: true }).compare)
  if (names.length === 0) throw refusal('folder.noPictures', { folder })
  return { ...from, names }
}

/** The same, whatever is in it: pictures are still to come. @throws Refusal where it leads out of the root, or is none. */
export async function openWatched(importRoot: string, folder: string): Promise<ImportFolder> {
  const root = await realpath(importRoot).catch(() => {
    throw refusal('folder.rootMissing', { root: importRoot })
  })
  const inside = await realpath(path.resolve(/* turbopackIgnore: true */ root, folder)).catch(() => undefined)
  if (!inside || !isInside(root, inside)) throw refusal('folder.outside', { folder, root })
  if (!(await stat(inside)).isDirectory()) throw refusal('folder.isFile', { folder })
  return { root, inside }
}

function isInside(root: string, place: string): boolean {
  return place === root || place.startsWith(root + path.sep)
}

/** A file of a folder with its size, where it has one: what is wrong with others is said when their turn comes. */
export async function sizedFile(from: ImportFolder, name: string): Promise<SizedName> {
  try {
    const file = await regularFile(from, name)
    // What stands first in a raw file is its small picture.
    if (isRaw(name)) return { name, size: null }
    const { width, height } = await readFacts(file)
    return { name, size: { width, height } }
  } catch {
    return { name, size: null }
  }
}

/**
 * A file of a folder that may be imported.
 * @throws Refusal where it is no plain file, or a link that leads out of the import folder.
 */
export async function regularFile({ root, inside }: ImportFolder, name: string): Promise<string> {
  const file = path.join(inside, name)
  const found = await lstat(file)
  const real = found.isSymbolicLink() ? await realpath(file).catch(() => undefined) : file
  if (!real || !isInside(root, real)) throw refusal('folder.outside', { folder: name, root })
  if (!(await stat(real)).isFile()) throw refusal('picture.unreadable', { name })
  return real
}
