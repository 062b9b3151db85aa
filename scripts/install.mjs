import { spawn } from 'node:child_process'
import { createHash } from 'node:crypto'
import { once } from 'node:events'
import { existsSync, mkdirSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs'
import path from 'node:path'

/** Runs a command and shows what it prints; a failure ends the script with its code. */
async function run(command, args, options = {}) {
  const [code] = await once(spawn(command, args, { stdio: 'inherit', ...options }), 'exit')
  if (code === 0) return
  console.error(`${command} ${args.join(' ')} did not work (see above).`)
  process.exit(code ?? 1)
}

/**
 * Installs the packages of the lock file where they are missing or the lock file has changed. The database's library has to be compiled, which
 * takes as long as all the rest: answers `compiled`, a promise, once everything else is there.
 */
export async function installPackages() {
  const lock = hash(readFileSync('package-lock.json'))
  if (read('node_modules/.installed') === lock) return { compiled: Promise.resolve() }
  const shell = process.platform === 'win32'
  const npm = shell ? 'npm.cmd' : 'npm'
  // Not `npm ci`: it refuses a lock file where a registry lacks the optional packages of other platforms.
  await run(npm, ['install', '--no-save', '--no-audit', '--no-fund', '--ignore-scripts'], { shell })
  return { compiled: run(npm, ['rebuild', '--no-audit', '--no-fund'], { shell }).then(() => writeFileSync('node_modules/.installed', lock)) }
}

/** Folders with unit tests, and with what they test. */
export const TESTED = ['app', 'archive', 'bench', 'cli', 'codec', 'core', 'database', 'demo', 'schemas', 'server', 'ui', 'worker']

/** Bundles the command where its sources have changed. */
export function buildCommand() {
  return onceFor(
    'command',
    'dist/nitidus.mjs',
    ['core', 'codec', 'schemas', 'database', 'archive', 'cli', 'server', 'demo', 'scripts', 'worker', 'package-lock.json'],
    () => run(process.execPath, ['scripts/build-cli.mjs']),
  )
}

/** Bundles the run card that is exported as one file, if its sources have changed. */
export function buildCard() {
  return onceFor('card', 'dist/card/main.js', ['core', 'schemas', 'ui', 'app/globals.css', 'scripts/build-card.mjs', 'package-lock.json'], () =>
    run(process.execPath, ['scripts/build-card.mjs']),
  )
}

/** Bundles the unit tests where they or what they test have changed. */
export function buildTests() {
  return onceFor('tests', 'dist/tests/chunks', [...TESTED, 'scripts', 'package-lock.json'], () => run(process.execPath, ['scripts/build-tests.mjs']))
}

/** Builds the web application where its sources have changed. */
export function buildApplication() {
  return onceFor(
    'application',
    '.next/BUILD_ID',
    [
      'core',
      'codec',
      'schemas',
      'database',
      'archive',
      'server',
      'ui',
      'app',
      'demo',
      'instrumentation.ts',
      'proxy.ts',
      'next.config.ts',
      'package-lock.json',
    ],
    () => run(process.execPath, ['node_modules/next/dist/bin/next', 'build'], { env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1' } }),
  )
}

/** The programs that judge our files in tests, and the browser: Debian's package by a file that it installs. */
const JUDGES = {
  '/usr/bin/chromium': 'chromium',
  '/usr/bin/convert': 'imagemagick',
  '/usr/bin/exiftool': 'libimage-exiftool-perl',
  '/usr/bin/python3': 'python3',
  '/usr/bin/pgrep': 'procps',
  '/usr/bin/tiffinfo': 'libtiff-tools',
  '/usr/bin/cjpeg': 'libjpeg-turbo-progs',
  '/usr/bin/assimp': 'assimp-utils',
  '/usr/bin/dcraw_emu': 'libraw-bin',
  '/usr/bin/pdftotext': 'poppler-utils',
  '/usr/lib/python3/dist-packages/PIL/__init__.py': 'python3-pil',
}

/** Installs Debian's packages that the tests need where they are missing; the application itself needs none of them. */
export async function installJudges() {
  const missing = Object.entries(JUDGES).flatMap(([program, name]) => (existsSync(program) ? [] : [name]))
  if (missing.length === 0) return
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' }
  await run('apt-get', ['update', '-qq'])
  await run('apt-get', ['install', '-y', '-qq', '--no-install-recommends', ...missing], { env })
}

async function onceFor(name, result, sources, build) {
  const stamp = hash(
    sources
      .flatMap(filesUnder)
      .map((file) => `${file.replaceAll('\\', '/')} ${hash(readFileSync(file))}`)
      .join('\n'),
  )
  if (read(`dist/.built-${name}`) === stamp && existsSync(result)) return
  await build()
  mkdirSync('dist', { recursive: true })
  writeFileSync(`dist/.built-${name}`, stamp)
}

function filesUnder(place) {
  if (!statSync(place).isDirectory()) return [place]
  return readdirSync(place, { recursive: true })
    .map((file) => path.join(place, String(file)))
    .filter((file) => statSync(file).isFile())
    .sort()
}

function read(file) {
  return existsSync(file) ? readFileSync(file, 'utf8') : undefined
}

function hash(contents) {
  return createHash('sha256').update(contents).digest('hex')
}
