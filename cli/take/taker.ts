import { readFile } from 'node:fs/promises'
import { refusal } from '@/core/words'
import { checkRegistration, type FrameFile, type Registration, type TakeJob } from '@/schemas'
import type { Progress } from '../progress'

/** Writes what a job of kind `take` asks for; `scratch` is an empty folder to work in. */
export type Taker = (job: TakeJob, scratch: string, progress: Progress) => Promise<void>

/** The frames of a render, and how they lie. @throws Refusal where a job names none. */
export async function seriesOf({ frames, registration }: TakeJob): Promise<{ frames: FrameFile[]; registration: Registration }> {
  if (!frames || registration === undefined) throw refusal('take.noFrames')
  return { frames, registration: checkRegistration(JSON.parse(await readFile(registration, 'utf8'))) }
}
