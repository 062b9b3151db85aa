import { spawnSync } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { build } from 'esbuild'

/** Makes the demo's past year anew, in a data folder of its own: `npm run demo:year`, after `npm run build`. */
const outfile = 'dist/make-year.mjs'
await build({
  entryPoints: ['scripts/make-year.ts'],
  outfile,
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  packages: 'external',
  alias: { '@': path.resolve('.') },
  tsconfig: 'tsconfig.json',
})
const data = mkdtempSync(path.join(os.tmpdir(), 'nitidus-year-'))
const { status } = spawnSync(process.execPath, [outfile], { stdio: 'inherit', env: { ...process.env, NITIDUS_DATA: data } })
rmSync(data, { recursive: true, force: true })
process.exitCode = status ?? 1
