import { defineConfig } from '@playwright/test'

const PORT = 3219
const ALONE = '**/storage.spec.ts'
const SERVED = { NITIDUS_DATA: '.e2e/data', NITIDUS_LAN: '127.0.0.2:3444' }

/** The real interface in Debian's headless Chromium, on a server with an empty data folder. */
export default defineConfig({
  testDir: 'e2e',
  // Far longer than anything takes: a machine that does other work as well may be several times slower for minutes.
  timeout: 600_000,
  expect: { timeout: 120_000 },
  // Each file makes its own shoots, so two can run at a time.
  workers: 2,
  projects: [
    // The test of backups reads everything that is stored, so no other test may store anything meanwhile. It comes first, when there is little: 23 s, 100 s at the end.
    { name: 'alone', testMatch: ALONE },
    { name: 'side by side', testIgnore: ALONE, dependencies: ['alone'] },
  ],
  reporter: [['list'], ['json', { outputFile: process.env.PLAYWRIGHT_JSON_OUTPUT_FILE ?? 'reports/interface.json' }]],
  use: {
    // The service worker loads every part of the application a second time in each test; tests of it switch it on.
    serviceWorkers: 'block',
    baseURL: `http://127.0.0.1:${PORT}`,
    viewport: { width: 1280, height: 800 },
    actionTimeout: 120_000,
    // Lists that still slide open swallow clicks on a busy machine.
    contextOptions: { reducedMotion: 'reduce' },
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-component-update', '--disable-sync', '--no-first-run'],
    },
  },
  webServer: [
    {
      command: `rm -rf .e2e && exec node node_modules/next/dist/bin/next start -p ${PORT} -H 127.0.0.1`,
      url: `http://127.0.0.1:${PORT}/api/shoots`,
      env: { ...SERVED, NITIDUS_IMPORT_ROOT: '.e2e/import', NEXT_TELEMETRY_DISABLED: '1', NEXT_MANUAL_SIG_HANDLE: 'true' },
      timeout: 120_000,
    },
    {
      // The way in for other devices, at another address of this machine; begun when the application answers.
      command: 'exec node dist/gate.mjs',
      url: 'https://127.0.0.2:3444/nitidus.crt',
      ignoreHTTPSErrors: true,
      env: { ...SERVED, PORT: String(PORT) },
      timeout: 60_000,
    },
  ],
})
