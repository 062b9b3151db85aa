import { mkdtemp, rm } from 'node:fs/promises'
import path from 'node:path'
import { refusal } from '@/core/words'
import { TAKES, type Take, type TakeJob } from '@/schemas'
import type { Progress } from '../progress'
import { takeFocusRun } from './focusRun'
import { takeFrames } from './frames'
import { takeMasks } from './masks'
import type { Taker } from './taker'
import { takeCrossed, takeRocking, takeStereo } from './views'

/** What writes each of the things that can be taken along; the compiler finds one that is missing. */
const TAKERS: Record<Take, Taker> = {
  frames: takeFrames,
  masks: takeMasks,
  focusRun: takeFocusRun,
  rocking: takeRocking,
  stereo: takeStereo,
  crossed: takeCrossed,
  // Its packages are large, and few jobs need them.
  relief: async (...args) => (await import('./relief')).takeRelief(...args),
}

/** The job of kind `take`: something beside the picture that other hands go on with. @throws Refusal where its file's ending does not serve. */
export async function runTake(job: TakeJob, progress: Progress): Promise<void> {
  const endings: readonly string[] = TAKES[job.what]
  if (!endings.includes(path.extname(job.out).slice(1).toLowerCase())) throw refusal('take.ending', { endings: endings.join(', .') })
  const scratch = await mkdtemp(path.join(path.dirname(job.out), '.take-'))
  try {
    await TAKERS[job.what](job, scratch, progress)
  } finally {
    await rm(scratch, { recursive: true, force: true })
  }
  progress({ stage: 'done', frame: 1, of: 1 })
}
