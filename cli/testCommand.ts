import { spawnSync } from 'node:child_process'
import path from 'node:path'

const COMMAND = path.resolve('dist/nitidus.mjs')

/** Runs the built command, as a test wants it: arguments, and what it reads from standard input. */
export function nitidus(args: string[], input = '') {
  const { status, stdout, stderr } = spawnSync(process.execPath, [COMMAND, ...args], { input, encoding: 'utf8' })
  return { status, stdout, stderr }
}

/** Exit code 2 and one line that ends with the code of what is wrong. */
export function expectRefused({ status, stderr, stdout }: ReturnType<typeof nitidus>, code: string) {
  expect(stderr).toContain(`[${code}]`)
  expect(stderr.trim().split('\n')).toHaveLength(1)
  expect(stdout).toBe('')
  expect(status).toBe(2)
}
