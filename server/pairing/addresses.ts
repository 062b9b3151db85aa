import { networkInterfaces } from 'node:os'

/** Where other devices reach this machine, while they are let in: `NITIDUS_LAN` is `port` or `address:port`. */
export interface Lan {
  port: number
  addresses: string[]
}

/** The port that the gate listens at where nothing else is asked for. */
export const LAN_PORT = 3443

/** Undefined where other devices are not let in. */
export function lanOf(setting = process.env.NITIDUS_LAN): Lan | undefined {
  if (!setting) return undefined
  const [, address, port] = /^(?:(.*):)?(\d+)$/.exec(setting) ?? []
  if (!port) return undefined
  return { port: Number(port), addresses: address ? [address] : ownAddresses() }
}

/** The machine's own addresses in its networks (IPv4, as people type them). */
function ownAddresses(): string[] {
  return Object.values(networkInterfaces())
    .flatMap((list) => list ?? [])
    .filter(({ family, internal }) => family === 'IPv4' && !internal)
    .map(({ address }) => address)
}
