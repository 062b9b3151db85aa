import type { NextConfig } from 'next'

const config: NextConfig = {
  serverExternalPackages: ['better-sqlite3', 'sharp', 'kysely', 'pdfkit', 'exifr', 'piscina', 'qrcode', 'chokidar'],
  // `npm test` and `npm run typecheck` check all types, tests included; once is enough.
  typescript: { ignoreBuildErrors: true },
  devIndicators: false,
  poweredByHeader: false,
}

export default config
