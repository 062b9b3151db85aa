import { createReadStream } from 'node:fs'
import { mkdir, rm, writeFile } from 'node:fs/promises'
import path from 'node:path'
import type { SeriesRequest } from '@/core/simulate'
import type { Environment } from '../environment'
import type { PictureStore } from '../pictures'
import { runEngine } from './engine'
import type { JobWork } from './queue'

/** Shoots a series with the simulated camera; each frame is taken in as soon as it is written, just as if imported. */
export function shootJob(environment: Environment, store: PictureStore): JobWork {
  return async (job, onEvent, signal) => {
    const scratch = store.folders.job(job.id)
    await rm(scratch, { recursive: true, force: true })
    await mkdir(scratch, { recursive: true })
    const request = JSON.parse(job.settings_json) as SeriesRequest
    const failed = new AbortController()
    const ingested: Promise<void>[] = []
    let failure: Error | undefined
    const takeIn = async (name: string, position_mm?: number) => {
      try {
        await store.add(job.run_id, name, createReadStream(path.join(scratch, name)), position_mm)
      } catch (error) {
        failure ??= error as Error
        failed.abort()
      }
    }
    try {
      const scene = path.join(scratch, 'scene.json')
      await writeFile(scene, JSON.stringify(request))
      const end = await runEngine(
        environment.engine,
        ['simulate', scene, '--out', scratch],
        (event) => {
          if (event.stage === 'frame' && event.file) ingested.push(takeIn(event.file, event.position_mm).then(() => onEvent(event)))
          else onEvent(event)
        },
        AbortSignal.any([signal, failed.signal]),
      )
      await Promise.all(ingested)
      return failure ? { kind: 'failed', sentence: failure.message } : end
    } finally {
      await rm(scratch, { recursive: true, force: true })
    }
  }
}
