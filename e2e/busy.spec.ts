import { execFileSync } from 'node:child_process'
import { mkdirSync, writeFileSync } from 'node:fs'
import { expect } from '@playwright/test'
import { test } from './turned.ts'
import ICAL from 'ical.js'

// Busy times of 300 generated events, recurring ones with exceptions among them, as "corrim busy" finds them and as ical.js,
// another iCalendar engine, expands them. Everything is in UTC or in zones without clock changes, since ical.js knows no
// zones by name alone; zones are compared in zones.spec.ts and in Go.

/** A generator of the same numbers each time (mulberry32). */
function numbers(seed: number): (below: number) => number {
  let state = seed
  return (below) => {
    state = (state + 0x6d2b79f5) | 0
    let t = Math.imul(state ^ (state >>> 15), 1 | state)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) % below
  }
}

const stamp = (date: Date) => date.toISOString().replace(/[-:]|\.\d+/g, '')

function event(n: number, below: (limit: number) => number): string {
  const start = new Date(Date.UTC(2026, below(6), 1 + below(28), below(24), 15 * below(4)))
  const lines = [`UID:${n}`, `DTSTAMP:20260101T000000Z`, `DTSTART:${stamp(start)}`, `DURATION:PT${1 + below(8)}H`]
  // A start that its own rule doesn't produce is undefined (RFC 5545, 3.8.5.3), so rules are made to fit.
  const weekdays = ['SU', 'MO', 'TU', 'WE', 'TH', 'FR', 'SA']
  const own = weekdays[start.getUTCDay()]
  const day = start.getUTCDate()
  const rules = [
    '',
    '',
    `FREQ=DAILY;INTERVAL=${1 + below(4)};COUNT=${1 + below(20)}`,
    `FREQ=WEEKLY;INTERVAL=${1 + below(3)};UNTIL=20261001T000000Z`,
    `FREQ=WEEKLY;BYDAY=${own},${weekdays[below(7)]};COUNT=${3 + below(20)}`,
    `FREQ=MONTHLY;BYMONTHDAY=${day};COUNT=${1 + below(8)}`,
    `FREQ=MONTHLY;BYDAY=${Math.ceil(day / 7)}${own};COUNT=${1 + below(6)}`,
    `FREQ=MONTHLY;INTERVAL=2;BYDAY=${own};UNTIL=20260801T000000Z`,
    'FREQ=YEARLY;COUNT=3',
  ]
  const rule = rules[below(rules.length)]
  if (rule) lines.push(`RRULE:${rule}`)
  if (rule && below(3) === 0) lines.push(`EXDATE:${stamp(new Date(start.getTime() + 7 * 24 * 3600_000))}`)
  // Beside RDATE alone ical.js leaves DTSTART out, which RFC 5545, 3.8.5.2 puts in: so only with a rule.
  if (rule && below(5) === 0) lines.push(`RDATE:${stamp(new Date(start.getTime() + (3 + below(40)) * 3600_000))}`)
  if (below(10) === 0) lines.push('TRANSP:TRANSPARENT')
  if (below(12) === 0) lines.push('STATUS:CANCELLED')
  return ['BEGIN:VEVENT', ...lines, 'END:VEVENT'].join('\r\n')
}

/** The same by ical.js: every occurrence that overlaps the range, merged. */
function expanded(text: string, from: Date, to: Date): [string, string][] {
  const spans: [number, number][] = []
  for (const part of new ICAL.Component(ICAL.parse(text)).getAllSubcomponents('vevent')) {
    if (part.getFirstPropertyValue('transp') === 'TRANSPARENT' || part.getFirstPropertyValue('status') === 'CANCELLED') continue
    const length = new ICAL.Event(part).duration.toSeconds() * 1000
    const times = new ICAL.RecurExpansion({ component: part, dtstart: part.getFirstPropertyValue('dtstart') as ICAL.Time })
    const recurs = part.hasProperty('rrule') || part.hasProperty('rdate')
    const single = [part.getFirstPropertyValue('dtstart') as ICAL.Time]
    for (let next = recurs ? times.next() : single.pop(); next; next = recurs ? times.next() : single.pop()) {
      const start = next.toJSDate().getTime()
      if (start >= to.getTime()) break
      if (start + length > from.getTime()) spans.push([Math.max(start, from.getTime()), Math.min(start + length, to.getTime())])
    }
  }
  spans.sort((a, b) => a[0] - b[0])
  const merged: [number, number][] = []
  for (const [start, end] of spans) {
    const last = merged.at(-1)
    if (last && start <= last[1]) last[1] = Math.max(last[1], end)
    else merged.push([start, end])
  }
  const written = (ms: number) => new Date(ms).toISOString().replace('.000', '')
  return merged.map(([start, end]) => [written(start), written(end)])
}

for (const seed of [1, 2, 3]) {
  test(`busy times of 300 events agree with another engine (${seed})`, () => {
    const below = numbers(seed)
    // Few enough at a time that merging doesn't hide what differs.
    for (let batch = 0; batch < 30; batch++) {
      const events = Array.from({ length: 10 }, (_, i) => event(batch * 10 + i, below)).join('\r\n')
      const text = `BEGIN:VCALENDAR\r\nVERSION:2.0\r\n${events}\r\nEND:VCALENDAR\r\n`
      mkdirSync('test-results', { recursive: true })
      writeFileSync('test-results/busy.ics', text)
      const [from, to] = ['2026-02-01T00:00:00Z', '2026-09-01T00:00:00Z']
      const found = JSON.parse(execFileSync('../bin/corrim', ['busy', '--from', from, '--to', to, '--zone', 'UTC', 'test-results/busy.ics'], { encoding: 'utf8' }))
      expect(found.busy, `batch ${batch} of ${text}`).toEqual(expanded(text, new Date(from), new Date(to)))
    }
  })
}
