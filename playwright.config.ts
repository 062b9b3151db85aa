import { defineConfig } from '@playwright/test'

const PORT = 3219

/** The real interface in Debian's headless Chromium, on a server with an empty data folder of its own. */
export default defineConfig({
  testDir: 'e2e',
  timeout: 240_000,
  expect: { timeout: 20_000 },
  workers: 1,
  reporter: [['list'], ['json', { outputFile: 'reports/interface.json' }]],
  use: {
    baseURL: `http://127.0.0.1:${PORT}`,
    viewport: { width: 1280, height: 800 },
    actionTimeout: 20_000,
    // Lists that still slide open swallow clicks on a busy machine.
    contextOptions: { reducedMotion: 'reduce' },
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-component-update', '--disable-sync', '--no-first-run'],
    },
  },
  webServer: {
    command: `rm -rf .e2e && exec node node_modules/next/dist/bin/next start -p ${PORT} -H 127.0.0.1`,
    url: `http://127.0.0.1:${PORT}/api/shoots`,
    env: { NITIDUS_DATA: '.e2e/data', NITIDUS_IMPORT_ROOT: '.e2e/import', NEXT_TELEMETRY_DISABLED: '1', NEXT_MANUAL_SIG_HANDLE: 'true' },
    timeout: 60_000,
  },
})
