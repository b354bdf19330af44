import { execFileSync } from 'node:child_process'
import { expect } from '@playwright/test'
import { test } from './turned.ts'

// The program's zone arithmetic against another implementation of the IANA data: Node's Intl (ICU). Wall-clock readings
// every few hours around the clock changes of several years go in as iCalendar events, the instants come out.
const zones = ['Europe/Lisbon', 'America/Halifax', 'America/St_Johns', 'America/Sao_Paulo', 'Asia/Kathmandu', 'Asia/Singapore', 'Australia/Lord_Howe', 'Pacific/Auckland', 'Africa/Casablanca']

const hour = 3_600_000

/** The offset from UTC that Intl knows, in milliseconds. */
function offsetAt(format: Intl.DateTimeFormat, instant: number): number {
  const part = Object.fromEntries(format.formatToParts(instant).map(({ type, value }) => [type, Number(value)]))
  const { year = 0, month = 1, day, hour: h, minute, second } = part
  return Date.UTC(year, month - 1, day, h, minute, second) - instant
}

/** RFC 5545, 3.3.5: the first instant that shows the reading, else the reading with the offset before the gap. */
function instantOf(format: Intl.DateTimeFormat, reading: number): number {
  const offsets = new Set<number>()
  for (let t = reading - 26 * hour; t <= reading + 26 * hour; t += 4 * hour) offsets.add(offsetAt(format, t))
  const shown = [...offsets].map((o) => reading - o).filter((t) => offsetAt(format, t) === reading - t)
  if (shown.length > 0) return Math.min(...shown)
  return reading - offsetAt(format, reading - 26 * hour)
}

const stamp = (t: number) => new Date(t).toISOString().replaceAll(/[-:]|\.\d+Z/g, '')

for (const zone of zones) {
  test(`wall clocks of ${zone} mean the same instants to Node`, () => {
    const format = new Intl.DateTimeFormat('en-US', {
      timeZone: zone, hourCycle: 'h23', year: 'numeric', month: 'numeric', day: 'numeric', hour: 'numeric', minute: 'numeric', second: 'numeric',
    })
    const wanted = new Set<string>()
    const events: string[] = []
    for (const from of [Date.UTC(2026, 2, 1), Date.UTC(2026, 8, 20), Date.UTC(2018, 9, 20)]) {
      for (let reading = from; reading < from + 50 * 24 * hour; reading += 1.25 * hour) {
        events.push(`BEGIN:VEVENT\r\nUID:${reading}\r\nDTSTART;TZID=${zone}:${stamp(reading)}\r\nDURATION:PT1S\r\nEND:VEVENT\r\n`)
        wanted.add(new Date(instantOf(format, reading)).toISOString().replace('.000', ''))
      }
    }
    const found = new Set<string>()
    for (const from of [2018, 2026]) {
      const printed = execFileSync('../bin/corrim', ['busy', '--from', `${from}-01-01T00:00:00Z`, '--to', `${from + 1}-01-02T00:00:00Z`, '-'], {
        input: `BEGIN:VCALENDAR\r\n${events.join('')}END:VCALENDAR\r\n`,
        encoding: 'utf8',
      })
      for (const [start] of JSON.parse(printed).busy) found.add(start)
    }
    expect([...found].sort()).toEqual([...wanted].sort())
  })
}
