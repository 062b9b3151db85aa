import { spawn } from 'node:child_process'
import { once } from 'node:events'
import { buildApplication, buildCommand, installPackages } from './install.mjs'

/** Installs, builds, prepares the demo data and serves; everything that is there already is left as it is. */
installPackages()
buildCommand()
// The demo pictures are rendered on one core while the application is built on the other.
const demo = spawn(process.execPath, ['dist/prepare-demo.mjs'], { stdio: 'inherit' })
const prepared = once(demo, 'exit')
buildApplication()
const [code] = await prepared
if (code !== 0) process.exit(code ?? 1)

const port = process.env.PORT ?? '3210'
console.log(`Nitidus is served on http://127.0.0.1:${port}`)
const server = spawn(process.execPath, ['node_modules/next/dist/bin/next', 'start', '-p', port, '-H', '127.0.0.1'], {
  stdio: 'inherit',
  // The application ends streams and devices itself before it goes.
  env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1', NEXT_MANUAL_SIG_HANDLE: 'true' },
})
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => server.kill(signal))
server.on('exit', (status) => process.exit(status ?? 0))
