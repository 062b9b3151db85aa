import { spawnSync } from 'node:child_process'
import { build } from 'esbuild'

/** Bundles a benchmark written in TypeScript and runs it: node bench/run.mjs survey-faults 200 */
const [name, ...args] = process.argv.slice(2)
const outfile = `dist/bench-${name}.mjs`
await build({
  entryPoints: [`bench/${name}.ts`],
  outfile,
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  external: ['sharp', 'exifr', 'better-sqlite3', 'pdfkit', 'piscina', 'libraw-wasm', 'qrcode', 'chokidar'],
  banner: { js: "import { createRequire } from 'node:module'; const require = createRequire(import.meta.url);" },
  tsconfig: 'tsconfig.json',
})
process.exitCode = spawnSync(process.execPath, [outfile, ...args], { stdio: 'inherit' }).status ?? 1
