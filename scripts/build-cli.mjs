import { build } from 'esbuild'

/** Bundles the command and the demo preparation, so that they start fast and need no TypeScript at run time. */
const common = {
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  external: ['sharp', 'better-sqlite3', 'pdfkit'],
  tsconfig: 'tsconfig.json',
  logLevel: 'warning',
}
const banner = { js: "import { createRequire } from 'node:module'; const require = createRequire(import.meta.url);" }

await build({ ...common, banner, entryPoints: ['cli/main.ts'], outfile: 'dist/nitidus.mjs' })
await build({ ...common, banner, entryPoints: ['scripts/prepare-demo.ts'], outfile: 'dist/prepare-demo.mjs' })
