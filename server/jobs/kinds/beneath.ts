import { access, writeFile } from 'node:fs/promises'
import path from 'node:path'
import type { FrameFile } from '@/schemas'
import { framesOfRender, REGISTRATION_FILE, registrationIn, renderOf } from '../../renders'
import type { JobAtWork } from '../kind'

/** The frames of a render that are still there, and how they lie: written to the job's folder. */
export async function beneath(
  { db, store, job }: Pick<JobAtWork<unknown>, 'db' | 'store' | 'job'>,
  scratch: string,
): Promise<{ frames: FrameFile[]; registration: string }> {
  const render = await renderOf(db, job.render_id!)
  const registration = path.join(scratch, REGISTRATION_FILE)
  await writeFile(registration, JSON.stringify(await registrationIn(store.folders, render)))
  return { frames: await Promise.all((await framesOfRender(db, render)).map((frame) => store.fileOf(frame))), registration }
}

/** A file, where it is there. */
export const there = (file: string): Promise<string | undefined> =>
  access(file).then(
    () => file,
    () => undefined,
  )
