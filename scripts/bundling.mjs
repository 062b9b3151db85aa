/** Packages that a bundle for Node loads from `node_modules`: they have native code, or files of their own. */
export const EXTERNAL = ['sharp', 'better-sqlite3', 'pdfkit', 'exifr', 'piscina', 'libraw-wasm', 'selfsigned', 'qrcode', 'cookie']

/** Lets bundled CommonJS packages load Node's modules. */
export const REQUIRE_BANNER = { js: "import { createRequire } from 'node:module'; const require = createRequire(import.meta.url);" }
