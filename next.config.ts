import type { NextConfig } from 'next'

const config: NextConfig = {
  serverExternalPackages: ['better-sqlite3', 'sharp', 'kysely', 'pdfkit', 'exifr', 'piscina', 'qrcode', 'chokidar'],
  devIndicators: false,
  poweredByHeader: false,
}

export default config
