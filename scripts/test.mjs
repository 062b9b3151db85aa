import { spawnSync } from 'node:child_process'
import { mkdirSync, readFileSync, rmSync } from 'node:fs'
import { buildApplication, buildCommand, installBrowser, installPackages } from './install.mjs'

/** Runs every check: types, lint, unit tests and the real interface; ends with the counts of the two runners' reports. */
installPackages()
installBrowser()
buildCommand()
buildApplication()

rmSync('reports', { recursive: true, force: true })
mkdirSync('reports', { recursive: true })
const steps = [
  ['types', ['tsc', '--noEmit']],
  ['lint', ['eslint', '.', '--max-warnings', '0']],
  ['unit tests', ['jest', '--json', '--outputFile=reports/unit.json', '--silent']],
  ['interface tests', ['playwright', 'test']],
]
const broken = steps.filter(([name, args]) => {
  console.log(`\n— ${name}`)
  return spawnSync('npx', ['--no-install', ...args], { stdio: 'inherit' }).status !== 0
})

const unit = report('reports/unit.json')
const ui = report('reports/interface.json')
const passed = (unit?.numPassedTests ?? 0) + (ui?.stats.expected ?? 0)
const failedTests = (unit?.numFailedTests ?? 0) + (unit?.numRuntimeErrorTestSuites ?? 0) + (ui?.stats.unexpected ?? 0) + (ui?.stats.flaky ?? 0)
// A step that broke without a failed test (types, lint, a runner that died) counts as one.
const failed = Math.max(failedTests, broken.length)
if (broken.length > 0) console.error(`\nNot passed: ${broken.map(([name]) => name).join(', ')}`)
console.log(`\n${passed} passed, ${failed} failed`)
process.exitCode = failed > 0 || passed === 0 ? 1 : 0

function report(file) {
  try {
    return JSON.parse(readFileSync(file, 'utf8'))
  } catch {
    return undefined
  }
}
