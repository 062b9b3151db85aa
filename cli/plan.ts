import type { Command } from 'commander'
import { planSeries, type PlanRequest, completePlanRequest } from '@/core/plan'
import { check, planRequestSchema } from '@/schemas'
import { readJson } from './json'

/** `nitidus plan request.json` (or `-`): the plan as JSON on standard output. */
export function addPlan(program: Command): void {
  program
    .command('plan')
    .description('plan a focus series; the plan is written to standard output as JSON')
    .argument('<request>', 'JSON file with camera, optics and subject, or - for standard input')
    .action(async (file: string) => {
      const request = completePlanRequest(check<PlanRequest>(planRequestSchema, await readJson(file)))
      console.log(JSON.stringify(planSeries(request), null, 2))
    })
}
