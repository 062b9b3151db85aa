import { isMainThread } from 'node:worker_threads'
import { split } from './split'
import { isForUser } from '@/schemas'
import { fuse } from './fuse/command'
import { plan } from './plan'
import { simulate } from './simulate'
import { standIn } from './standIn'
import { serveThread } from './threads'
import { survey } from './survey'

const VERBS: Record<string, (args: string[]) => Promise<void>> = { plan, simulate, fuse, survey, split, 'stand-in': standIn }

/** The `nitidus` command: 0 on success, 2 on a user's mistake with one line on standard error, 1 on ours. */
async function main([verb, ...args]: string[]): Promise<number> {
  const run = VERBS[verb ?? '']
  if (!run) {
    console.error(`Usage: nitidus ${Object.keys(VERBS).join('|')} …`)
    return 2
  }
  try {
    await run(args)
    return 0
  } catch (error) {
    return explain(error as Error & { code?: string })
  }
}

function explain(error: Error & { code?: string }): number {
  const mistake = isForUser(error) || error.code?.startsWith('ERR_PARSE_ARGS')
  if (mistake) {
    const field = 'field' in error && error.field && !error.message.includes(String(error.field)) ? `${error.field}: ` : ''
    // What is said of options may go on over several lines; the first one is what is wrong.
    console.error(field + error.message.split('\n')[0])
    return 2
  }
  if (error.code === 'ENOSPC' || error.code === 'EDQUOT') {
    console.error('The disk is full; make room and run it again. Nothing was half written.')
    return 2
  }
  if (error instanceof RangeError && /memory|allocation/i.test(error.message)) {
    console.error('There is not enough memory for frames of this size; allow more, close other programs, or make the frames smaller.')
    return 2
  }
  if (error.code === 'ENOENT' || error.code === 'EACCES' || error.code === 'EISDIR' || error.code === 'ENOTDIR') {
    console.error(`A file or folder cannot be read or written: ${error.message}`)
    return 2
  }
  console.error(`Something went wrong inside: ${error.message}`)
  if (process.env.NITIDUS_DEBUG) console.error(error.stack)
  return 1
}

// Threads run this same file.
if (isMainThread) process.exitCode = await main(process.argv.slice(2))
else serveThread()
