import { readdirSync, rmSync } from 'node:fs'
import path from 'node:path'
import { build } from 'esbuild'
import './build-kernels.mjs'
import { EXTERNAL, REQUIRE_BANNER } from './bundling.mjs'

/** Bundles the command, the demo preparation and the service worker, so that they start fast and need no TypeScript at run time. */
const common = {
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  external: EXTERNAL,
  tsconfig: 'tsconfig.json',
  logLevel: 'warning',
  // Half as much to read at each start; names stay, for traces that can be read.
  minifyWhitespace: true,
  minifySyntax: true,
}
const banner = REQUIRE_BANNER

// Code that is loaded on demand or by threads is in files next to the command.
const entryPoints = {
  nitidus: 'cli/main.ts',
  command: 'cli/command.ts',
  thread: 'cli/thread.ts',
  raw: 'codec/raw/thread.ts',
  gate: 'server/gate/main.ts',
}
const { metafile } = await build({
  ...common,
  banner,
  entryPoints,
  splitting: true,
  outdir: 'dist',
  outExtension: { '.js': '.mjs' },
  chunkNames: 'part-[hash]',
  metafile: true,
})
const made = Object.keys(metafile.outputs).map((file) => path.basename(file))
for (const old of readdirSync('dist')) if (old.startsWith('part-') && !made.includes(old)) rmSync(path.join('dist', old))
await build({ ...common, banner, entryPoints: ['scripts/prepare-demo.ts'], outfile: 'dist/prepare-demo.mjs' })

// The worker that keeps opened pages usable without a connection; served from the application's root.
await build({
  bundle: true,
  platform: 'browser',
  format: 'iife',
  target: 'es2022',
  minify: true,
  define: { 'process.env.NODE_ENV': '"production"' },
  tsconfig: 'worker/tsconfig.json',
  logLevel: 'warning',
  entryPoints: ['worker/serviceWorker.ts'],
  outfile: 'public/sw.js',
})
