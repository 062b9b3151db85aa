import { spawnSync } from 'node:child_process'
import { buildCommand, installJudges, installPackages } from './install.mjs'

/**
 * The unit tests that answer in two minutes: all but those that start the command, or shoot, fuse or
 * measure whole series, which `npm test` runs too.
 * Words after it choose among them, as Jest takes them: `npm run test:unit -- core/optics`.
 */
const LONG = [
  'core/register',
  'core/simulate',
  'core/survey',
  'core/dust',
  'core/moving',
  'core/devices',
  'core/fuse/fuse',
  'core/raster/kernels',
  '/cli/',
  'server/bin',
  'server/colour',
  'server/crafted',
  'server/field',
  'server/jobs',
  'server/trust',
]
const { compiled } = await installPackages()
await installJudges()
await buildCommand()
await compiled
const jest = ['node_modules/jest/bin/jest.js', '--testPathIgnorePatterns', '/node_modules/', '/e2e/', '/dist/', '/.next/', ...LONG]
const { status } = spawnSync(process.execPath, [...jest, '--testPathPatterns', process.argv.slice(2).join('|') || '.'], { stdio: 'inherit' })
process.exitCode = status ?? 1
