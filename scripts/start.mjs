import { spawn } from 'node:child_process'
import { once } from 'node:events'
import { parseArgs } from 'node:util'
import { buildApplication, buildCard, buildCommand, installPackages } from './install.mjs'

const USAGE = `npm start -- [options]
  --data DIR           folder of the database and all pictures; "data" where left out
  --no-demo            begin with nothing in it
  --port N             port on this machine, 3210 where left out
  --lan                let other devices in over the network, once they are paired
  --lan-port N         port for them, 3443 where left out
  --lan-address A      let them in at this one of the machine's addresses only`

/** Installs, builds, prepares the demo data and serves; everything that is there already is left as it is. */
const { data, demo, port, lan } = asked()
if (data) process.env.NITIDUS_DATA = data
if (lan) process.env.NITIDUS_LAN = lan
process.env.PORT = port
const { compiled } = await installPackages()
await buildCommand()
// The demo pictures are rendered on one core while the application is built on the other.
const [code] = (await Promise.all([compiled.then(prepareDemo), buildCard().then(buildApplication)]))[0]
if (code !== 0) process.exit(code ?? 1)

console.log(`Nitidus is served on http://127.0.0.1:${port}`)
// The application ends streams and devices itself before it goes.
const env = { ...process.env, NEXT_TELEMETRY_DISABLED: '1', NEXT_MANUAL_SIG_HANDLE: 'true' }
const server = spawn(process.execPath, ['node_modules/next/dist/bin/next', 'start', '-p', port, '-H', process.env.NITIDUS_HOST ?? '127.0.0.1'], {
  stdio: 'inherit',
  env,
})
const started = [server]
if (lan) started.push(spawn(process.execPath, ['dist/gate.mjs'], { stdio: 'inherit', env }))
const stop = (signal) => started.forEach((one) => one.kill(signal))
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => stop(signal))
server.on('exit', (status) => {
  stop('SIGTERM')
  process.exit(status ?? 0)
})

/** Fills a data folder that is empty; answers how that ended. */
async function prepareDemo() {
  return demo ? once(spawn(process.execPath, ['dist/prepare-demo.mjs'], { stdio: 'inherit' }), 'exit') : [0]
}

function asked() {
  try {
    const { values } = parseArgs({
      options: {
        data: { type: 'string' },
        'no-demo': { type: 'boolean' },
        port: { type: 'string', default: process.env.PORT ?? '3210' },
        lan: { type: 'boolean' },
        'lan-port': { type: 'string', default: '3443' },
        'lan-address': { type: 'string' },
        help: { type: 'boolean' },
      },
    })
    if (values.help) {
      console.log(USAGE)
      process.exit(0)
    }
    const at = [values['lan-address'], values['lan-port']].filter(Boolean).join(':')
    for (const number of [values.port, values['lan-port']]) if (!/^\d{1,5}$/.test(number)) throw new Error(`${number} is no port.`)
    return { data: values.data, demo: !values['no-demo'], port: values.port, lan: values.lan ? at : process.env.NITIDUS_LAN }
  } catch (error) {
    console.error(`${error.message}\n${USAGE}`)
    process.exit(2)
  }
}
