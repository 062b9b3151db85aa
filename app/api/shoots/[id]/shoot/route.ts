import { planSeries } from '@/core/plan'
import type { Fault } from '@/core/simulate'
import { check, completePlanRequest, standInSchema } from '@/schemas'
import { simulationOf } from '@/server'
import { bodyOf, idOf, respond } from '../../../respond'

/** Starts a run with the simulated camera, at the positions of the plan, with the faults that are switched on. */
export const POST = (body: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ shoots, jobs }) => {
    const shoot = await shoots.shoot(await idOf(params))
    const request = completePlanRequest(JSON.parse(shoot.plan_json))
    const { faults } = check<{ faults: Fault['kind'][] }>(standInSchema, await bodyOf(body))
    // Every run of a shoot is unsteady in its own way.
    const seed = shoot.id * 101 + (await shoots.detail(shoot.id)).runs.length
    const settings = simulationOf(shoot.scene, request, planSeries(request), seed, faults)
    const runId = await shoots.addRun(shoot.id, 'simulated')
    const { id } = await jobs.add(shoot.id, runId, 'shoot', settings)
    return { id }
  })
