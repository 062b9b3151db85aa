import type { MadeFor } from '@/core/finish'
import { pixelSizeOf, type PixelSize, type SurfaceFacts } from '@/core/relief'
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
  const framed = byName.get(reference)
  const pixelSize = await pixelSizeIn(db, render, framed?.width, framed?.position_mm)
  return { unit: depth.unit, at0: depth.at0, at65535: depth.at65535, slices, ...(pixelSize && { pixelSize }), width_px: crop.width }
}

/** What a recipe has to know of a render that it is for; a pixel's size is that in the plane of focus of the frame that it is framed by. */
export async function madeForOf(db: Database, render: Render): Promise<MadeFor> {
  const { crop, reference } = storedReport(render.report_json)
  const framed = await db
    .selectFrom('frame')
    .select(['position_mm', 'width'])
    .where('run_id', '=', render.run_id)
    .where('name', '=', reference)
    .executeTakeFirst()
  const size = await pixelSizeIn(db, render, framed?.width, framed?.position_mm ?? 0)
  return { width: crop.width, height: crop.height, ...(size && { pixel_mm: size.size_mm }) }
}

/** How large a pixel is on the subject where a frame so many px wide is focused; undefined where that or the plan is not known. */
async function pixelSizeIn(db: Database, { run_id }: Render, width?: number, at_mm?: number | null): Promise<PixelSize | undefined> {
  const { plan_json } = await db.selectFrom('run').select('plan_json').where('id', '=', run_id).executeTakeFirstOrThrow()
  const plan = storedPlan(plan_json)
  return plan && width !== undefined && at_mm !== undefined && at_mm !== null ? pixelSizeOf(plan, width, at_mm) : undefined
}
