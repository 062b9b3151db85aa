import { availableParallelism } from 'node:os'

/** Files that are read at once: decoding keeps one core busy each, and more than these would only take memory. */
const AT_ONCE = Math.min(4, availableParallelism())

/**
 * What `read` makes of each file, in their order; as many are read at once as there are cores, then worked on one by one while the next
 * are read. Meant for small pictures: two groups lie in memory together.
 * @throws what `read` throws.
 */
export async function* readInGroups<F, T>(files: F[], read: (file: F) => Promise<T>): AsyncGenerator<T> {
  const group = (first: number) => {
    const reading = Promise.all(files.slice(first, first + AT_ONCE).map(read))
    // What goes wrong is told when its turn comes, or to nobody where nobody asks on.
    reading.catch(() => undefined)
    return reading
  }
  let coming = group(0)
  for (let first = 0; first < files.length; first += AT_ONCE) {
    const here = await coming
    coming = group(first + AT_ONCE)
    yield* here
  }
}
