import { build } from 'esbuild'

await build({
  entryPoints: ['cli/main.ts'],
  outfile: 'dist/nitidus.mjs',
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  external: ['sharp', 'joi', 'exif-reader'],
  tsconfig: 'tsconfig.json',
  logLevel: 'warning',
})
