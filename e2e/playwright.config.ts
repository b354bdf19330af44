import { defineConfig } from '@playwright/test'
import { emptyPorts, ports } from './ports.ts'

// The demo, with all its stand-ins, is started afresh for the whole run; journeys use different people and types of it,
// so that they don't meet. With WIDTH=phone, the journeys around the client's page run on a phone.
const phone = process.env.WIDTH === 'phone'

export default defineConfig({
  testDir: '.',
  testMatch: phone ? ['begin', 'clients', 'looks', 'offer', 'requests'].map((name) => `${name}.spec.ts`) : '*.spec.ts',
  workers: 1,
  timeout: 40_000,
  expect: { timeout: 8_000 },
  reporter: [['list']],
  use: {
    baseURL: `http://localhost:${ports.corrim}`,
    timezoneId: 'America/Halifax',
    locale: 'en-GB',
    viewport: phone ? { width: 390, height: 844 } : { width: 1280, height: 800 },
    trace: 'retain-on-failure',
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
      args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking', '--disable-component-update', '--disable-sync'],
    },
  },
  webServer: [started('demo', ports), started('empty', emptyPorts, '--empty')],
})

/** How the program is started afresh with all its stand-ins. */
function started(data: string, at: typeof ports, flags = '') {
  return {
    command: `mkdir -p test-results && rm -rf test-results/${data} && ../bin/corrim demo ${flags} --data test-results/${data} --addr localhost:${at.corrim} --calendar-addr localhost:${at.calendar} --inbox-addr localhost:${at.inbox} --rooms-addr localhost:${at.rooms} --smtp-addr localhost:${at.smtp} > test-results/${data}.out`,
    url: `http://localhost:${at.corrim}/readyz`,
    reuseExistingServer: false,
    gracefulShutdown: { signal: 'SIGINT' as const, timeout: 5_000 },
  }
}
