import { spawnSync } from 'node:child_process'
import path from 'node:path'
import { createSyncFn } from 'synckit'

interface Ended {
  status: number | null
  stdout: string
  stderr: string
}

const runInThread = createSyncFn<(args: string[], input: string) => Promise<Ended>>(path.resolve('cli/testThread.mjs'))

/**
 * Runs the built command with `args` and `input` on standard input, in a thread that stays: starting a process takes 0.4 s.
 */
export const nitidus = (args: string[], input = ''): Ended => runInThread(args, input)

/** The same in a new process, for tests of what happens when a process ends. */
export function nitidusProcess(args: string[]): Ended {
  const { status, stdout, stderr } = spawnSync(process.execPath, ['dist/nitidus.mjs', ...args], { encoding: 'utf8' })
  return { status, stdout, stderr }
}

/** Exit code 2 and one line that ends with the code of what is wrong. */
export function expectRefused({ status, stderr, stdout }: ReturnType<typeof nitidus>, code: string) {
  expect(stderr).toContain(`[${code}]`)
  expect(stderr.trim().split('\n')).toHaveLength(1)
  expect(stdout).toBe('')
  expect(status).toBe(2)
}
