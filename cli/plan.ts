import { readFile } from 'node:fs/promises'
import { text } from 'node:stream/consumers'
import { planSeries, type PlanRequest } from '@/core/plan'
import { check, completePlanRequest, InputError, planRequestSchema } from '@/schemas'

/** `nitidus plan request.json` (or `-`): the plan as JSON on standard output. */
export async function plan(args: string[]): Promise<void> {
  if (args.length !== 1) throw new InputError('Usage: nitidus plan request.json (or - for standard input)')
  const request = completePlanRequest(check<PlanRequest>(planRequestSchema, await readJson(args[0])))
  console.log(JSON.stringify(planSeries(request), null, 2))
}

/** JSON from a file, or from standard input for `-`. @throws InputError where there is none. */
export async function readJson(file: string): Promise<unknown> {
  const contents = await (file === '-' ? text(process.stdin) : readFile(file, 'utf8')).catch(() => {
    throw new InputError(`${file} cannot be read; give the name of a JSON file.`)
  })
  try {
    return JSON.parse(contents)
  } catch {
    throw new InputError(`${file === '-' ? 'Standard input' : file} is not JSON; check the commas and quotes.`)
  }
}
