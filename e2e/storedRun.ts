import { readFileSync } from 'node:fs'
import path from 'node:path'
import { expect, type APIRequestContext } from '@playwright/test'

/** Posts JSON to the API and returns the answer. */
async function post(request: APIRequestContext, address: string, data: object = {}) {
  const answer = await request.post(address, { data })
  expect(answer.ok()).toBe(true)
  return answer.json()
}

/** Stores files as a run of a new shoot, by the API: for tests of what comes after the import. */
export async function storedRun(request: APIRequestContext, title: string, files: string[]): Promise<{ shoot: number; run: number }> {
  const { id: shoot } = await post(request, '/api/shoots', { title, subject: '', scene: 'fossil', plan: null })
  const { id: run } = await post(request, `/api/shoots/${shoot}/runs`)
  for (const file of files) {
    const stored = await request.put(`/api/runs/${run}/frames?name=${path.basename(file)}`, { data: readFileSync(file) })
    expect(stored.ok()).toBe(true)
  }
  return { shoot, run }
}

/** Fuses a run by the API and returns the render's number. */
export async function fused(request: APIRequestContext, run: number, settings: object = {}): Promise<number> {
  const { id: job } = await post(request, `/api/runs/${run}/fuse`, settings)
  const detail = async () => (await request.get(`/api/jobs/${job}`)).json()
  await expect.poll(async () => (await detail()).state, { intervals: [200] }).toBe('done')
  return (await detail()).result.render
}
