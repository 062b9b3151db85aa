import { readdirSync, rmSync } from 'node:fs'
import path from 'node:path'
import { build } from 'esbuild'
import { EXTERNAL, REQUIRE_BANNER } from './bundling.mjs'
import { TESTED } from './install.mjs'

/**
 * Bundles the unit tests into `dist/tests`, as the command is bundled: modules that several tests use become chunks that a process loads
 * once, and functions are called directly. A compiler at load time turns each import into a getter, which doubles the time of inner loops.
 */
const OUT = 'dist/tests'

const entryPoints = TESTED.flatMap((folder) =>
  readdirSync(folder, { recursive: true })
    .map((file) => path.join(folder, String(file)))
    .filter((file) => file.endsWith('.test.ts')),
)
rmSync(OUT, { recursive: true, force: true })
await build({
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  external: [...EXTERNAL, 'synckit', 'fast-check', 'gltf-validator'],
  banner: REQUIRE_BANNER,
  tsconfig: 'tsconfig.json',
  logLevel: 'warning',
  jsx: 'automatic',
  sourcemap: 'linked',
  entryPoints,
  outbase: '.',
  outdir: OUT,
  splitting: true,
  outExtension: { '.js': '.mjs' },
  chunkNames: 'chunks/[hash]',
  plugins: [
    {
      name: 'class-names',
      setup({ onLoad }) {
        // A class of a CSS module has the name that it has in the file.
        onLoad({ filter: /\.css$/ }, () => ({ contents: 'export default new Proxy({}, { get: (_, name) => name })' }))
      },
    },
  ],
})
