import { spawn } from 'node:child_process'
import { once } from 'node:events'
import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { buildApplication, buildCard, buildCommand, buildTests, installPackages } from './install.mjs'
import { pagesAtFailures, printTimes } from './testReport.mjs'

const REPORTS = path.join('reports', new Date().toISOString().replaceAll(':', '-').slice(0, 19))
const [UNIT, INTERFACE] = ['unit.json', 'interface.json'].map((name) => path.join(REPORTS, name))
/** Reports of so many runs are kept. */
const KEPT_RUNS = 10
/** A step that hangs is ended after this time and counts as failed. */
const MOST_min = 40

/** Each check by the program that runs it. Node starts it, without a shell. */
const STEPS = {
  types: ['node_modules/typescript/bin/tsc', '--noEmit'],
  lint: ['node_modules/eslint/bin/eslint.js', '.', '--max-warnings', '0'],
  format: ['node_modules/prettier/bin/prettier.cjs', '--check', '.', '--log-level', 'warn'],
  unit: ['node_modules/jest/bin/jest.js', '--json', `--outputFile=${UNIT}`, '--silent'],
  interface: ['node_modules/@playwright/test/cli.js', 'test'],
}

/** Checks that use one core and write nothing. */
const QUICK = ['types', 'lint', 'format']

/**
 * Runs every check, or the named ones (`node scripts/test.mjs unit`): types, lint, format, unit tests and the real
 * interface. Prints the slowest tests, the seconds of each step, and the counts of the two runners' reports.
 */
const started = Date.now()
const seconds = {}
const named = process.argv.slice(2)
const steps = Object.keys(STEPS).filter((name) => named.length === 0 || named.includes(name))
// Debian's packages are installed while ours are compiled.
const judges = once(spawn(process.execPath, ['scripts/judges.mjs'], { stdio: 'inherit' }), 'exit')
const { compiled } = await installPackages()
await buildCommand()
await buildCard()
if (steps.includes('unit')) await buildTests()
if (steps.includes('interface') || steps.includes('types')) await buildApplication()
await compiled

const [installed] = await judges
if (installed !== 0) process.exit(installed ?? 1)
seconds['install and build'] = since(started)

mkdirSync(REPORTS, { recursive: true })
for (const old of readdirSync('reports').sort().slice(0, -KEPT_RUNS)) rmSync(path.join('reports', old), { recursive: true })
// The quick checks run at the same time; the runners have every core to themselves.
const quick = steps.filter((name) => QUICK.includes(name))
const broken = (await Promise.all(quick.map(step))).flat()
for (const name of steps.filter((name) => !QUICK.includes(name))) broken.push(...(await step(name)))

const unit = report(UNIT)
const ui = report(INTERFACE)
const passed = (unit?.numPassedTests ?? 0) + (ui?.stats.expected ?? 0)
const failedTests = (unit?.numFailedTests ?? 0) + (unit?.numRuntimeErrorTestSuites ?? 0) + (ui?.stats.unexpected ?? 0) + (ui?.stats.flaky ?? 0)
// A step that failed without a failed test (types, lint, a runner that died) counts as one.
const failed = Math.max(failedTests, broken.length)
for (const page of pagesAtFailures(ui, (file) => readFileSync(file, 'utf8'))) console.error(`\nThe page when a test failed:\n${page}`)
seconds.total = since(started)
writeFileSync(path.join(REPORTS, 'seconds.json'), JSON.stringify(seconds, null, 2))
printTimes(unit, ui, seconds)
if (broken.length > 0) console.error(`\nNot passed: ${broken.join(', ')}`)
console.log(`\n${passed} passed, ${failed} failed`)
process.exitCode = failed > 0 || (named.length === 0 && passed === 0) ? 1 : 0

/** Runs a step, prints its output and how long it took. Returns its name if it did not pass. */
async function step(name) {
  const began = Date.now()
  console.log(`\n— ${name}`)
  const env = { ...process.env, PLAYWRIGHT_JSON_OUTPUT_FILE: INTERFACE }
  const child = spawn(process.execPath, STEPS[name], { stdio: 'inherit', env })
  const limit = setTimeout(() => child.kill('SIGKILL'), MOST_min * 60_000)
  const [code] = await once(child, 'close')
  clearTimeout(limit)
  seconds[name] = since(began)
  console.log(`— ${name}: ${seconds[name]} s`)
  return code === 0 ? [] : [name]
}

function since(start) {
  return Math.round((Date.now() - start) / 1000)
}

function report(file) {
  try {
    return JSON.parse(readFileSync(file, 'utf8'))
  } catch {
    return undefined
  }
}
