import { spawnSync } from 'node:child_process'
import { ENGINE_PATTERN } from './engineTests.mjs'
import { buildCommand, buildTests, installJudges, installPackages } from './install.mjs'

/**
 * `npm run test:unit`: the unit tests that do not run the engine on whole series; `npm run test:engine`: those that do. Words after it choose
 * among all of them, as Jest takes them: `npm run test:unit -- core/optics`.
 */
const [which, ...words] = process.argv.slice(2)
const { compiled } = await installPackages()
await installJudges()
await buildCommand()
await buildTests()
await compiled
const chosen = {
  unit: ['--testPathIgnorePatterns', ENGINE_PATTERN],
  engine: ['--testPathPatterns', ENGINE_PATTERN],
  words: ['--testPathPatterns', words.join('|')],
}[words.length > 0 ? 'words' : which]
const { status } = spawnSync(process.execPath, ['node_modules/jest/bin/jest.js', ...chosen], { stdio: 'inherit' })
process.exitCode = status ?? 1
