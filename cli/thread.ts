import { workerData } from 'node:worker_threads'
import { serveKernels } from '@/core/raster/kernels'
import { serveDarkroom } from './standIn/serveDarkroom'
import type { ThreadWork } from './startThread'

// What a thread of the command runs: a file of its own, so that none waits for all that the verbs load.
const work = workerData as ThreadWork
if (work.work === 'kernels') serveKernels(work.memory, work.board, work.number)
else serveDarkroom(work)
