import { Worker } from 'node:worker_threads'

/** What a thread is started for: to take pictures of a simulated scene, or to run kernels of a team. */
export type ThreadWork =
  { work: 'darkroom'; scene: string; seed: number } | { work: 'kernels'; memory: WebAssembly.Memory; board: SharedArrayBuffer; number: number }

/** Starts a thread; what it runs lies beside the command. */
export const startThread = (work: ThreadWork): Worker => new Worker(new URL('thread.mjs', import.meta.url), { workerData: work })
