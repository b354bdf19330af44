import { defineConfig } from '@playwright/test'
import { emptyPortsOf, ports, portsOf, startDemo, workers } from './ports.ts'
import { turnedFlags } from './turned.ts'

// For each worker a demo, with all its stand-ins, is started afresh for the whole run; journeys use different people and types of it,
// so that they don't meet, whatever ran before them. With WIDTH=phone, the journeys around the client's page run on a phone.
const phone = process.env.WIDTH === 'phone'

export default defineConfig({
  testDir: '.',
  testMatch: phone ? ['begin', 'clients', 'course', 'inbound', 'looks', 'messages', 'offer', 'requests', 'seats', 'sessions'].map((name) => `${name}.spec.ts`) : '*.spec.ts',
  workers,
  timeout: 120_000, // of a slow machine; here the longest take thirty seconds
  expect: { timeout: 20_000 },
  reporter: [['list']],
  use: {
    baseURL: `http://localhost:${ports.corrim}`,
    timezoneId: 'America/Halifax',
    locale: 'en-GB',
    viewport: phone ? { width: 390, height: 844 } : { width: 1280, height: 800 },
    trace: process.env.TRACE ? 'retain-on-failure' : 'off', // recording slows each step
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium-headless-shell',
      args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking', '--disable-component-update', '--disable-sync'],
    },
  },
  webServer: [...Array(workers).keys()].flatMap((n) => [started(`demo-${n}`, portsOf(n)), started(`empty-${n}`, emptyPortsOf(n), ['--empty'])]),
})

/** How the program is started afresh with all its stand-ins. */
function started(data: string, at: ReturnType<typeof portsOf>, flags: string[] = []) {
  return {
    command: `mkdir -p test-results && rm -rf test-results/${data} && exec ${startDemo(data, at, [...turnedFlags(), ...flags]).join(' ')} > test-results/${data}.out`,
    url: `http://localhost:${at.corrim}/readyz`,
    reuseExistingServer: false,
    gracefulShutdown: { signal: 'SIGINT' as const, timeout: 5_000 },
  }
}
