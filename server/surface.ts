import { pixelSizeOf, type SurfaceFacts } from '@/core/relief'
import type { Database, Render } from '@/database'
import { storedPlan, storedReport } from '@/schemas'

/** What the depth of a render stands for, and how large a pixel is; undefined where its depth is not known. */
export async function surfaceFactsOf(db: Database, render: Render): Promise<(SurfaceFacts & { width_px: number }) | undefined> {
  const { depth, frames, reference, crop } = storedReport(render.report_json)
  if (!depth) return undefined
  const rows = await db.selectFrom('frame').select(['name', 'position_mm', 'width']).where('run_id', '=', render.run_id).execute()
  const byName = new Map(rows.map((row) => [row.name, row]))
  const used = frames.filter(({ role }) => role !== 'left out')
  const positions = used.map(({ file }) => byName.get(file)?.position_mm ?? undefined)
  const known = depth.unit === 'mm' && positions.every((at) => at !== undefined)
  const slices = known ? (positions as number[]) : used.map((_, k) => depth.at0 + (k / Math.max(1, used.length - 1)) * (depth.at65535 - depth.at0))
  const { plan_json } = await db.selectFrom('run').select('plan_json').where('id', '=', render.run_id).executeTakeFirstOrThrow()
  const plan = storedPlan(plan_json)
  const framed = byName.get(reference)
  const at = framed?.position_mm ?? undefined
  const pixelSize = plan && framed && at !== undefined ? pixelSizeOf(plan, framed.width, at) : undefined
  return { unit: depth.unit, at0: depth.at0, at65535: depth.at65535, slices, ...(pixelSize && { pixelSize }), width_px: crop.width }
}
