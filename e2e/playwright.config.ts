import { defineConfig } from '@playwright/test'
import { ports } from './ports.ts'

// The demo, with all its stand-ins, is started afresh for the whole run; journeys use different people and types of it,
// so that they don't meet.
export default defineConfig({
  testDir: '.',
  testMatch: '*.spec.ts',
  workers: 1,
  timeout: 40_000,
  expect: { timeout: 8_000 },
  reporter: [['list']],
  use: {
    baseURL: `http://localhost:${ports.corrim}`,
    timezoneId: 'America/Halifax',
    locale: 'en-GB',
    viewport: { width: 1280, height: 800 },
    trace: 'retain-on-failure',
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
      args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking', '--disable-component-update', '--disable-sync'],
    },
  },
  webServer: {
    command: `rm -rf test-results/demo && ../bin/corrim demo --data test-results/demo --addr localhost:${ports.corrim} --calendar-addr localhost:${ports.calendar} --inbox-addr localhost:${ports.inbox} --rooms-addr localhost:${ports.rooms} --smtp-addr localhost:${ports.smtp}`,
    url: `http://localhost:${ports.corrim}/readyz`,
    reuseExistingServer: false,
    gracefulShutdown: { signal: 'SIGINT', timeout: 5_000 },
  },
})
