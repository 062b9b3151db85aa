import type { Schema } from 'joi'
import { check, deviceCallSchema, type DeviceCall } from '@/schemas'
import { bodyOf, idOf, respond } from '../../../respond'

/** Drives the simulated devices of a shoot. */
export const POST = (body: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ benches }) => benches.call(await idOf(params), check<DeviceCall>(deviceCallSchema as Schema<DeviceCall>, await bodyOf(body))))
