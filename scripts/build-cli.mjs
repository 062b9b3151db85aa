import { build } from 'esbuild'
import './build-kernels.mjs'

/** Bundles the command, the demo preparation and the service worker, so that they start fast and need no TypeScript at run time. */
const common = {
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  external: ['sharp', 'better-sqlite3', 'pdfkit', 'exifr'],
  tsconfig: 'tsconfig.json',
  logLevel: 'warning',
}
const banner = { js: "import { createRequire } from 'node:module'; const require = createRequire(import.meta.url);" }

await build({ ...common, banner, entryPoints: ['cli/main.ts'], outfile: 'dist/nitidus.mjs' })
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
