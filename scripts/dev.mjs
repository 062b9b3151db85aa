import { spawnSync } from 'node:child_process'
import { buildCommand, installPackages } from './install.mjs'

/** The application as it is being written: pages are built when they are asked for, and again when they change. */
const { compiled } = await installPackages()
await buildCommand()
await compiled
const { status } = spawnSync(process.execPath, ['node_modules/next/dist/bin/next', 'dev', '-p', process.env.PORT ?? '3210', '-H', '127.0.0.1'], {
  stdio: 'inherit',
  env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1' },
})
process.exitCode = status ?? 1
