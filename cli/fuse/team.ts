import { availableParallelism } from 'node:os'
import { setFlagsFromString } from 'node:v8'
import { runInNewContext } from 'node:vm'
import { refusal } from '@/core/words'
import { createBoard, createMemory, TeamKernels, type Kernels } from '@/core/raster/kernels'
import { startThread } from '../startThread'

/** More threads than this wait for memory, not for one another. */
const MOST_THREADS = 8

export interface Team {
  kernels: Kernels
  threads: number
  dismiss(): Promise<void>
}

/** Gives back at once what decoded pictures took: several that wait for the collector are hundreds of megabytes. */
export function collectGarbage(): void {
  setFlagsFromString('--expose-gc')
  const collect = runInNewContext('gc') as () => void
  collect()
}

/** What NITIDUS_MEMORY_MB allows. @throws Refusal where it is no number of megabytes. */
function mostMemory_MB(): number | undefined {
  const { NITIDUS_MEMORY_MB: said } = process.env
  if (said === undefined || said === '') return undefined
  const most = Number(said)
  if (!(most >= 1)) throw refusal('memory.setting', { said })
  return most
}

/** The compiled kernels on as many threads as there are cores, or on `threads` of them. */
export async function gatherTeam(threads = Math.min(MOST_THREADS, availableParallelism())): Promise<Team> {
  // Kernels run few times and long: compiled well at once, they save the time that the first frame would take in the quick version.
  setFlagsFromString('--no-liftoff')
  const memory = createMemory(mostMemory_MB())
  const board = createBoard()
  const others = threads - 1
  const workers = Array.from({ length: others }, (_, k) => {
    // A thread that cannot start is not waited for: the others do its share.
    return startThread({ work: 'kernels', memory, board, number: k + 1 }).on('error', () => undefined)
  })
  return {
    kernels: new TeamKernels(memory, board, others),
    threads,
    dismiss: async () => {
      await Promise.all(workers.map((worker) => worker.terminate()))
    },
  }
}

/** Does some work with a team, which starts while the work makes itself ready, and ends with it however that ends. */
export async function withTeam<Result>(work: (gathering: Promise<Team>) => Promise<Result>): Promise<Result> {
  const gathering = gatherTeam()
  // Work that ends before it asks for the team has said what is wrong already.
  gathering.catch(() => undefined)
  try {
    return await work(gathering)
  } finally {
    await gathering.then(
      (team) => team.dismiss(),
      () => undefined,
    )
  }
}
