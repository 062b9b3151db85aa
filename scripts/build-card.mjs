import { build } from 'esbuild'

/** Bundles the run card that is taken along as one file: scripts and styles that the server writes into it. */
await build({
  bundle: true,
  platform: 'browser',
  format: 'iife',
  target: 'es2022',
  minify: true,
  jsx: 'automatic',
  define: { 'process.env.NODE_ENV': '"production"' },
  // A phone has letters of its own.
  loader: { '.woff2': 'empty', '.woff': 'empty' },
  tsconfig: 'tsconfig.json',
  logLevel: 'warning',
  // The styles of all pages lie above what a screen may import.
  entryPoints: { main: 'ui/field/oneFile/main.tsx', globals: 'app/globals.css' },
  outdir: 'dist/card',
})
