import { createReadStream } from 'node:fs'
import path from 'node:path'
import type { SeriesRequest } from '@/core/simulate'
import { sceneRequestSchema } from '@/schemas'
import type { JobKindWork } from '../kind'

/** Shoots a series with the simulated camera; each frame is taken in as soon as it is written, just as if imported. */
export const shoot: JobKindWork<'shoot', SeriesRequest> = {
  lane: 'engine',
  settings: sceneRequestSchema,
  prepare: async ({ settings, scratch }) => ({ kind: 'shoot', scene: settings, out: scratch }),
  onEvent: async ({ store, job, scratch }, { stage, file, position_mm }) => {
    if (stage !== 'frame' || !file) return
    await store.add(job.run_id!, file, createReadStream(path.join(scratch, file)), position_mm)
  },
  finish: async () => null,
}
