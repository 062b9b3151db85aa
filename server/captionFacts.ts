import type { CaptionFacts } from '@/core/finish'
import { planSeries } from '@/core/plan'
import { apertureText, dateText, lengthText, significant } from '@/core/units'
import { isRefusal } from '@/core/words'
import type { Database, Render } from '@/database'
import { storedPlan, storedReport, storedTaken } from '@/schemas'
import { takenWith } from './renders'

/** What is known of a render that a caption may tell. */
export async function captionFactsOf(db: Database, render: Render): Promise<CaptionFacts> {
  const { title, subject, plan_json, created_at } = await db
    .selectFrom('run')
    .innerJoin('shoot', 'shoot.id', 'run.shoot_id')
    .select(['shoot.title', 'shoot.subject', 'run.plan_json', 'run.created_at'])
    .where('run.id', '=', render.run_id)
    .executeTakeFirstOrThrow()
  const report = storedReport(render.report_json)
  const taken_json = await takenWith(db, render)
  const taken = taken_json ? storedTaken(taken_json) : undefined
  const plan = storedPlan(plan_json)
  const fNumber = taken?.fNumber ?? (plan?.optics.kind === 'lens' ? plan.optics.fNumber : undefined)
  const used = report.frames.filter(({ role }) => role !== 'left out').length
  const deep = report.depth?.unit === 'mm' ? Math.abs(report.depth.at65535 - report.depth.at0) : undefined
  return {
    title,
    subject: subject || undefined,
    date: dateText(taken?.taken_at ?? created_at),
    magnification: plan && plan.subject.kind === 'depth' ? magnificationText(plan) : undefined,
    depth: deep === undefined ? undefined : `${lengthText(deep)} deep`,
    lens: taken?.lens,
    aperture: fNumber === undefined ? undefined : apertureText(fNumber),
    frames: `${used} frames`,
    style: report.style.charAt(0).toUpperCase() + report.style.slice(1),
  }
}

/** Nothing where the plan no longer works. */
function magnificationText(plan: Parameters<typeof planSeries>[0]): string | undefined {
  try {
    return `${significant(planSeries(plan).magnification, 3)} : 1`
  } catch (error) {
    if (isRefusal(error)) return undefined
    throw error
  }
}
