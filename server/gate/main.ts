import { Folders } from '@/database'
import { lanOf } from '../pairing'
import { certificateFor } from './certificate'
import { openGate } from './gate'

/** What `npm start -- --lan` starts beside the application: the way in for other devices. */
const lan = lanOf()
if (!lan || lan.addresses.length === 0) {
  console.error('This machine is in no network that other devices could reach it by.')
  process.exit(1)
}
const certificate = await certificateFor(lan.addresses, new Folders(process.env.NITIDUS_DATA ?? 'data').lan())
const server = openGate(lan, certificate, Number(process.env.PORT ?? 3210))
server.on('error', (error: NodeJS.ErrnoException) => {
  const taken = error.code === 'EADDRINUSE'
  console.error(taken ? `Port ${lan.port} is taken by another program. Name another one: npm start -- --lan --lan-port 3444` : error.message)
  process.exit(1)
})
// At every address of the machine, or at the one that was named.
server.listen(lan.port, lan.addresses.length === 1 ? lan.addresses[0] : '0.0.0.0', () => {
  for (const address of lan.addresses) console.log(`Other devices reach Nitidus at https://${address}:${lan.port} once they are paired`)
})
for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, () => process.exit(0))
