import { spawnSync } from 'node:child_process'

/** The command, with as few heaps for threads as it needs: a setting that has to be there before it starts. */
const { status } = spawnSync(process.execPath, ['dist/nitidus.mjs', ...process.argv.slice(2)], {
  stdio: 'inherit',
  env: { MALLOC_ARENA_MAX: '2', ...process.env },
})
process.exitCode = status ?? 1
