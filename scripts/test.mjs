import { spawn } from 'node:child_process'
import { once } from 'node:events'
import { mkdirSync, readFileSync, rmSync } from 'node:fs'
import { buildApplication, buildCard, buildCommand, installPackages } from './install.mjs'

/** Each check by the file that runs it; started by Node itself, so that no shell comes into it. */
const STEPS = {
  types: ['node_modules/typescript/bin/tsc', '--noEmit'],
  lint: ['node_modules/eslint/bin/eslint.js', '.', '--max-warnings', '0'],
  format: ['node_modules/prettier/bin/prettier.cjs', '--check', '.', '--log-level', 'warn'],
  unit: ['node_modules/jest/bin/jest.js', '--json', '--outputFile=reports/unit.json', '--silent'],
  interface: ['node_modules/@playwright/test/cli.js', 'test'],
}

/** Those that take one core and write nothing. */
const QUICK = ['types', 'lint', 'format']

/**
 * Runs every check, or those that are named (`node scripts/test.mjs unit`): types, lint, format, unit tests and the real
 * interface; ends with the counts of the two runners' reports.
 */
const asked = process.argv.slice(2)
const wanted = Object.keys(STEPS).filter((name) => asked.length === 0 || asked.includes(name))
// Debian's packages come while ours are compiled.
const judges = once(spawn(process.execPath, ['scripts/judges.mjs'], { stdio: 'inherit' }), 'exit')
const { compiled } = await installPackages()
await buildCommand()
await buildCard()
if (wanted.includes('interface') || wanted.includes('types')) await buildApplication()
await compiled

const [installed] = await judges
if (installed !== 0) process.exit(installed ?? 1)

rmSync('reports', { recursive: true, force: true })
mkdirSync('reports', { recursive: true })
// What only reads goes side by side; the runners have every core to themselves.
const [quick, long] = [wanted.filter((name) => QUICK.includes(name)), wanted.filter((name) => !QUICK.includes(name))]
const broken = (await Promise.all(quick.map(step))).flat()
for (const name of long) broken.push(...(await step(name)))

const unit = report('reports/unit.json')
const ui = report('reports/interface.json')
const passed = (unit?.numPassedTests ?? 0) + (ui?.stats.expected ?? 0)
const failedTests = (unit?.numFailedTests ?? 0) + (unit?.numRuntimeErrorTestSuites ?? 0) + (ui?.stats.unexpected ?? 0) + (ui?.stats.flaky ?? 0)
// A step that broke without a failed test (types, lint, a runner that died) counts as one.
const failed = Math.max(failedTests, broken.length)
for (const page of pagesAtFailures(ui)) console.error(`\nThe page when a test failed:\n${page}`)
if (broken.length > 0) console.error(`\nNot passed: ${broken.join(', ')}`)
console.log(`\n${passed} passed, ${failed} failed`)
process.exitCode = failed > 0 || (asked.length === 0 && passed === 0) ? 1 : 0

/** Runs a step, shows what it prints and how long it took; its name where it did not pass. */
async function step(name) {
  const began = Date.now()
  console.log(`\n— ${name}`)
  const code = await new Promise((done) => spawn(process.execPath, STEPS[name], { stdio: 'inherit' }).on('close', done))
  console.log(`— ${name}: ${Math.round((Date.now() - began) / 1000)} s`)
  return code === 0 ? [] : [name]
}

function report(file) {
  try {
    return JSON.parse(readFileSync(file, 'utf8'))
  } catch {
    return undefined
  }
}

/** What the interface runner wrote about the page of each failed test; on a machine that is gone afterwards nothing else tells of it. */
function pagesAtFailures({ suites = [] } = {}) {
  return suites.flatMap((suite) => [
    ...pagesAtFailures(suite),
    ...(suite.specs ?? [])
      .flatMap(({ tests }) => tests.flatMap(({ results }) => results.flatMap(({ attachments }) => attachments)))
      .filter(({ name }) => name === 'error-context')
      .map(({ path }) => /```yaml\n([\s\S]*?)```/.exec(readFileSync(path, 'utf8'))?.[1] ?? ''),
  ])
}
