import { randomUUID } from 'node:crypto'
import { planSeries, completePlanRequest } from '@/core/plan'
import { FAULT_WORDS, type Fault } from '@/core/simulate'
import type { SurveyReport } from '@/core/survey'
import { type DeviceReply, type ShootDetail, type ShootSummary } from '@/schemas'

/**
 * Runs every demo scene on the simulated devices of a served application, clean and with each fault, as the screen does
 * it: move, wait for the flash, press; then surveys the run. Prints what the survey says beside what went wrong.
 * `npm run bench:shoot -- http://127.0.0.1:3210 [fossil,nib,garden] [bump,sway,…]`
 */
const [address = 'http://127.0.0.1:3210', scenes = 'fossil,nib,garden', kinds = Object.keys(FAULT_WORDS).join()] = process.argv.slice(2)

async function ask<T>(route: string, body?: unknown): Promise<T> {
  const response = await fetch(`${address}${route}`, {
    method: body === undefined ? 'GET' : 'POST',
    headers: { 'content-type': 'application/json' },
    ...(body !== undefined && { body: JSON.stringify(body) }),
  })
  const answer = (await response.json()) as T & { error?: string }
  if (!response.ok) throw new Error(answer.error ?? route)
  return answer
}

/** What the survey must say of a fault; of sway nothing at all, as registration sees to it. */
const NAMED: Record<Fault['kind'], (report: SurveyReport) => boolean> = {
  bump: ({ messages }) => messages.some(({ code }) => code === 'moved'),
  sway: (report) => isQuiet(report),
  stirred: ({ messages }) => messages.some(({ code }) => code === 'stirred'),
  dust: ({ messages }) => messages.every(({ code }) => code === 'dust'),
  noFlash: ({ frames }) => frames.some(({ role }) => role === 'flawed'),
  shake: ({ frames }) => frames.some(({ role }) => role === 'flawed'),
  whiteBalance: ({ frames }) => frames.some(({ role }) => role === 'flawed'),
  flicker: ({ messages, frames }) => messages.some(({ code }) => code === 'exposure') || frames.some(({ role }) => role === 'flawed'),
  skippedStep: ({ coverage }) => coverage.gaps.length > 0,
  repeatedStep: ({ frames }) => frames.some(({ role }) => role === 'idle'),
  divider: ({ frames }) => frames.some(({ role }) => role === 'divider'),
  startShort: ({ coverage }) => coverage.nearEnd === 'short' || coverage.farEnd === 'short',
  endShort: ({ coverage }) => coverage.nearEnd === 'short' || coverage.farEnd === 'short',
  runsOn: ({ frames }) => frames.some(({ role }) => role === 'idle'),
}

/** That parts move is no accident: in the garden water runs and grass sways. */
const isQuiet = ({ frames, messages }: SurveyReport) => messages.every(({ code }) => code === 'stirred') && frames.every(({ role }) => role === 'use')

const said = ({ frames, messages }: SurveyReport) =>
  [
    ...messages.map(({ code, files }) => `${code} ${files.map(shortName).join(' ')}`),
    ...frames.flatMap(({ file, role }) => (role === 'use' ? [] : [`${shortName(file)} ${role}`])),
  ].join('; ') || 'nothing'
const shortName = (file: string) => file.replace(/^frame_|\.jpg$/g, '')

/** One run by the devices: exposes every frame of the plan, and past it where that is the fault. */
async function run(shoot: ShootDetail, fault?: Fault['kind']): Promise<SurveyReport> {
  const request = completePlanRequest(shoot.planRequest!)
  const plan = planSeries(request)
  const near_mm = request.subject.kind === 'range' ? request.subject.near_mm : 0
  const places = plan.frames.map((frame) => frame.position_mm ?? frame.focusDistance_mm! - near_mm)
  const order = shoot.sheet?.direction === 'far' ? places.toReversed() : places
  // Steps are even in mm, or in one over the distance where the plan is by distances.
  const scale = (place: number) => (near_mm > 0 ? 1 / (place + near_mm) : place)
  const back = (value: number) => (near_mm > 0 ? 1 / value - near_mm : value)
  if (fault === 'runsOn') for (let k = 0; k < 5; k++) order.push(back(2 * scale(order.at(-1)!) - scale(order.at(-2)!)))
  // Each run is one of its own in the shoot's log.
  const log = randomUUID()
  const devices = (call: object) => ask<DeviceReply>(`/api/shoots/${shoot.id}/devices`, call)
  await devices({ do: 'open', faults: fault && fault !== 'runsOn' ? [fault] : [], width_px: 1200 })
  for (const position_mm of order) {
    const { flash } = await devices({ do: 'goTo', position_mm })
    if (flash && flash.recycling_s > 0) await new Promise((resolve) => setTimeout(resolve, flash.recycling_s * 1000 + 20))
    try {
      await devices({ do: 'press', run: log })
    } catch (error) {
      // An empty battery ends the run: that is the fault.
      if (fault === 'endShort' && /battery/.test((error as Error).message)) break
      throw error
    }
  }
  const { runs } = await ask<ShootDetail>(`/api/shoots/${shoot.id}`)
  const { id } = await ask<{ id: number }>(`/api/runs/${Math.max(...runs.map((run) => run.id))}/survey`, {})
  for (;;) {
    const job = (await (await fetch(`${address}/api/jobs/${id}`)).json()) as { state: string; error: string; result: SurveyReport }
    if (job.state === 'done') return job.result
    if (job.state !== 'queued' && job.state !== 'running') throw new Error(job.error)
    await new Promise((resolve) => setTimeout(resolve, 300))
  }
}

const all = await ask<ShootSummary[]>('/api/shoots')
const details = await Promise.all(all.map(({ id }) => ask<ShootDetail>(`/api/shoots/${id}`)))
let [right, made] = [0, 0]
for (const scene of scenes.split(',')) {
  const shoot = details.find((detail) => detail.scene === scene)
  if (!shoot) throw new Error(`No shoot of the scene ${scene}; serve the demo data.`)
  for (const fault of [undefined, ...(kinds.split(',').filter((kind) => kind in FAULT_WORDS) as Fault['kind'][])]) {
    const report = await run(shoot, fault)
    const good = fault ? NAMED[fault](report) : isQuiet(report)
    made++
    if (good) right++
    console.log(
      `${good ? 'right' : 'WRONG'}  ${scene.padEnd(7)} ${(fault ?? 'clean').padEnd(13)} ${report.frames.length} frames; said: ${said(report)}`,
    )
  }
}
console.log(`${right} of ${made} runs judged right`)
