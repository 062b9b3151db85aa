import path from 'node:path'

const SLOWEST = 15
/** A test file that takes longer than this is named in a warning. */
const MOST_s = 40

/** Prints the slowest tests, the test files that take too long, and the seconds of each step. */
export function printTimes(unit, ui, seconds) {
  const tests = [...unitTests(unit), ...uiTests(ui)]
  const files = new Map()
  for (const { file, s } of tests) files.set(file, (files.get(file) ?? 0) + s)
  console.log(`\nThe ${SLOWEST} slowest tests:`)
  for (const { file, name, s } of tests.sort((a, b) => b.s - a.s).slice(0, SLOWEST)) console.log(`${s.toFixed(1).padStart(7)} s  ${file}: ${name}`)
  for (const [file, s] of [...files].sort((a, b) => b[1] - a[1]))
    if (s > MOST_s) console.log(`Warning: ${file} takes ${Math.round(s)} s; ${MOST_s} s at most is wanted.`)
  console.log(`\nSeconds: ${Object.entries(seconds).map(([name, s]) => `${name} ${s}`).join(', ')}`) // prettier-ignore
}

function unitTests({ testResults = [] } = {}) {
  return testResults.flatMap(({ name, assertionResults }) =>
    assertionResults.map(({ title, duration }) => ({ file: sourceOf(name), name: title, s: (duration ?? 0) / 1000 })),
  )
}

/** The test file that a bundle was made of. */
const sourceOf = (bundle) => path.relative('dist/tests', bundle).replace(/mjs$/, 'ts')

function uiTests({ suites = [] } = {}) {
  return suites.flatMap((suite) => [
    ...uiTests(suite),
    ...(suite.specs ?? []).map(({ title, file, tests }) => ({
      file: path.join('e2e', file),
      name: title,
      s: tests.flatMap(({ results }) => results).reduce((sum, { duration }) => sum + duration, 0) / 1000,
    })),
  ])
}

/** The page content at each failed test of the interface; on a machine that is deleted afterwards this is the only record. */
export function pagesAtFailures({ suites = [] } = {}, read) {
  return suites.flatMap((suite) => [
    ...pagesAtFailures(suite, read),
    ...(suite.specs ?? [])
      .flatMap(({ tests }) => tests.flatMap(({ results }) => results.flatMap(({ attachments }) => attachments)))
      .filter(({ name }) => name === 'error-context')
      .map((attachment) => /```yaml\n([\s\S]*?)```/.exec(read(attachment.path))?.[1] ?? ''),
  ])
}
