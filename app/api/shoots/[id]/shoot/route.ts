import { planSeries } from '@/core/plan'
import { completePlanRequest } from '@/schemas'
import { simulationOf } from '@/server'
import { idOf, respond } from '../../../respond'

/** Starts a run with the simulated camera, at the positions of the plan. */
export const POST = (_: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ shoots, jobs }) => {
    const shoot = await shoots.shoot(await idOf(params))
    const request = completePlanRequest(JSON.parse(shoot.plan_json))
    const settings = simulationOf(shoot.scene, request, planSeries(request), shoot.id)
    const runId = await shoots.addRun(shoot.id, 'simulated')
    const { id } = await jobs.add(shoot.id, runId, 'shoot', settings)
    return { id }
  })
