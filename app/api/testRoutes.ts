import { mkdtempSync } from 'node:fs'
import { rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import path from 'node:path'
import sharp from 'sharp'
import { FOSSIL } from '@/demo/scenario'
import { closeContext, context } from '@/server'
import * as framesRoute from './runs/[id]/frames/route'
import * as runsRoute from './shoots/[id]/runs/route'
import * as shootsRoute from './shoots/route'
import { statusOf } from './status'

/** Gives the routes of a test file a data folder of their own, which ends with the file; returns the folder. */
export function ownFolder(): string {
  const folder = mkdtempSync(path.join(tmpdir(), 'api-'))
  process.env.NITIDUS_DATA = folder
  afterAll(async () => {
    const { jobs } = await context()
    await jobs.idle()
    await closeContext()
    await rm(folder, { recursive: true })
  })
  return folder
}

export const JSON_TYPE = { 'content-type': 'application/json' }
export const params = <T>(value: T) => ({ params: Promise.resolve(value) })
export const request = (body?: unknown) => new Request('http://here/', { method: 'POST', body: JSON.stringify(body), headers: JSON_TYPE })
export const answer = async (response: Response) => ({ status: response.status, body: await response.json() })
export const refused = (code: string) => ({ status: statusOf(code), body: { code, error: expect.stringMatching(/\.$/) } })

export async function newShoot({
  title,
  subject,
  scene,
  plan,
}: Pick<typeof FOSSIL, 'title' | 'subject' | 'scene' | 'plan'> = FOSSIL): Promise<string> {
  return String((await answer(await shootsRoute.POST(request({ title, subject, scene, plan })))).body.id)
}

export const newRun = async () => String((await answer(await runsRoute.POST(request(), params({ id: await newShoot() })))).body.id)

export const put = async (runId: string, name: string, body: BodyInit | null) =>
  answer(
    await framesRoute.PUT(
      new Request(`http://here/?name=${encodeURIComponent(name)}`, { method: 'PUT', body, headers: { host: 'localhost' } }),
      params({ id: runId }),
    ),
  )

export const jpeg = async (background = '#876') =>
  new Uint8Array(
    await sharp({ create: { width: 64, height: 48, channels: 3, background } })
      .jpeg()
      .toBuffer(),
  )
