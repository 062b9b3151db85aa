import { jobDetail } from '@/server'
import { idOf, respond } from '../../respond'

export const dynamic = 'force-dynamic'

export const GET = (_: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ jobs }) => jobDetail(await jobs.job(await idOf(params))))
