import { workerData } from 'node:worker_threads'
import { serveKernels } from '@/core/raster/kernels'
import { serveDarkroom } from './standIn'

/** What a thread of the command's own file is started for. */
export type ThreadWork =
  { work: 'darkroom'; scene: string; seed: number } | { work: 'kernels'; memory: WebAssembly.Memory; board: SharedArrayBuffer; number: number }

/** Does what this thread was started for. */
export function serveThread(): void {
  const work = workerData as ThreadWork
  if (work.work === 'kernels') serveKernels(work.memory, work.board, work.number)
  else serveDarkroom()
}
