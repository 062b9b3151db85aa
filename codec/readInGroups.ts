import { availableParallelism } from 'node:os'

/** Files that are read at once: decoding keeps one core busy each, and more than these would only take memory. */
const AT_ONCE = Math.min(4, availableParallelism())

/**
 * What `read` makes of each file, in their order; as many are read at once as there are cores, then worked on one by one.
 * Meant for small pictures: a group lies in memory together. Reading on during the work would only hold that up: it needs
 * the same cores.
 * @throws what `read` throws.
 */
export async function* readInGroups<F, T>(files: F[], read: (file: F) => Promise<T>): AsyncGenerator<T> {
  for (let first = 0; first < files.length; first += AT_ONCE) yield* await Promise.all(files.slice(first, first + AT_ONCE).map(read))
}
