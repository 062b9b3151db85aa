import { spawnSync } from 'node:child_process'

/** The command, giving back at once the memory that it has done with: settings that have to be there before it starts. */
const { status } = spawnSync(process.execPath, ['dist/nitidus.mjs', ...process.argv.slice(2)], {
  stdio: 'inherit',
  env: { MALLOC_ARENA_MAX: '2', MALLOC_MMAP_THRESHOLD_: '131072', ...process.env },
})
process.exitCode = status ?? 1
