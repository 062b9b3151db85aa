import type { PairingState } from '@/schemas'
import { respond } from '../respond'

/** Whether other devices are let in, and which are paired. */
export const GET = () => respond(async ({ pairing }): Promise<PairingState> => ({ on: pairing.lan !== undefined, devices: await pairing.list() }))

/** A new code to type on another device. */
export const POST = () => respond(({ pairing }) => pairing.offer())
