import { mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import asc from 'assemblyscript/asc'

/** Compiles the kernels and puts them into a module as text, so that any bundler, thread and test finds them. */
const OUT = 'dist/kernels.wasm'
mkdirSync('dist', { recursive: true })
const { error, stderr } = await asc.main([
  'core/raster/kernels/assembly/index.ts',
  '--outFile',
  OUT,
  '--optimizeLevel',
  '3',
  '--shrinkLevel',
  '0',
  '--runtime',
  'stub',
  '--noAssert',
  '--enable',
  'simd',
  '--enable',
  'threads',
  '--importMemory',
  '--sharedMemory',
  '--initialMemory',
  '16',
  '--maximumMemory',
  '65536',
])
if (error) {
  console.error(String(stderr))
  process.exit(1)
}
writeFileSync(
  'core/raster/kernels/generated.ts',
  `/** The compiled kernels, base64. Made by scripts/build-kernels.mjs from assembly/. */\nexport const KERNELS = '${readFileSync(OUT).toString('base64')}'\n`,
)
