import { afterEach, describe, expect, it, vi } from 'vitest'
import { lookAt } from '../page/open'
import {
  addDays,
  clock,
  clockRange,
  hourText,
  instantAt,
  longDate,
  minuteText,
  offsetOf,
  ownZone,
  placeOf,
  shortDate,
  showTwelve,
  wallClock,
  weekOf,
  zonesByRegion,
} from './time'

const at = (text: string) => new Date(text)

describe('clocks', () => {
  // Offsets from the IANA data; Kathmandu is UTC+5:45, Lord Howe's summer time is half an hour.
  it('shows an instant in any zone', () => {
    expect(clock(at('2026-12-03T14:15:00Z'), 'America/Halifax')).toBe('10:15')
    expect(wallClock(at('2026-12-03T20:00:00Z'), 'Asia/Kathmandu')).toEqual({ date: '2026-12-04', minute: 105 })
    expect(clock(at('2026-12-03T00:00:00Z'), 'UTC')).toBe('00:00')
  })

  it('names offsets with a real minus, and none for zero', () => {
    expect(offsetOf(at('2026-12-03T12:00:00Z'), 'America/Halifax')).toBe('UTC−4')
    expect(offsetOf(at('2026-12-03T12:00:00Z'), 'Asia/Kathmandu')).toBe('UTC+5:45')
    expect(offsetOf(at('2026-12-03T12:00:00Z'), 'Europe/Lisbon')).toBe('UTC')
    expect(offsetOf(at('2026-12-03T12:00:00Z'), 'Australia/Lord_Howe')).toBe('UTC+11')
  })

  // What ECMA-262's Temporal writes for these instants; where there is none, as in Node.js, Intl says the same.
  it('reads clocks and offsets from Temporal where there is one', () => {
    const zoned = {
      'America/Halifax': { offset: '-04:00', toString: () => '2026-12-03T10:15:00-04:00[America/Halifax]' },
      'Asia/Kathmandu': { offset: '+05:45', toString: () => '2026-12-03T20:00:00+05:45[Asia/Kathmandu]' },
    }
    const instant = at('2026-12-03T14:15:00Z')
    const said = () =>
      Object.keys(zoned).map((zone) => [wallClock(instant, zone), clock(instant, zone), offsetOf(instant, zone)])
    const byIntl = said()
    vi.stubGlobal('Temporal', {
      Now: { timeZoneId: () => 'Asia/Kathmandu' },
      Instant: {
        fromEpochMilliseconds: (ms: number) => ({
          toZonedDateTimeISO: (zone: keyof typeof zoned) => ms === instant.getTime() && zoned[zone],
        }),
      },
    })
    expect(said()).toEqual(byIntl)
    expect(ownZone()).toBe('Asia/Kathmandu')
    vi.unstubAllGlobals()
  })

  it('finds the instant of a wall clock, the first of two, minute by minute', () => {
    expect(instantAt('2026-12-03', 615, 'America/Halifax').toISOString()).toBe('2026-12-03T14:15:00.000Z')
    expect(instantAt('2026-10-25', 60, 'Europe/Lisbon').toISOString()).toBe('2026-10-25T00:00:00.000Z')
    // In Halifax the clock goes back on 1 November 2026, in Lisbon it has already: the difference changes within the day.
    expect(clock(instantAt('2026-11-01', 30, 'America/Halifax'), 'Europe/Lisbon')).toBe('03:30')
    expect(clock(instantAt('2026-11-01', 600, 'America/Halifax'), 'Europe/Lisbon')).toBe('14:00')
  })

  it('says offsets where the clock goes back within a meeting', () => {
    const range = (from: string, to: string) => clockRange(at(from), at(to), 'Europe/Lisbon')
    expect(range('2026-10-25T00:30:00Z', '2026-10-25T01:00:00Z')).toEqual(['01:30 (UTC+1)', '01:00 (UTC)'])
    expect(range('2026-10-26T10:30:00Z', '2026-10-26T11:00:00Z')).toEqual(['10:30', '11:00'])
  })

  it('writes 24:00 as the end of a day', () => {
    expect(minuteText(1440)).toBe('24:00')
    expect(minuteText(65)).toBe('01:05')
  })
})

describe('dates', () => {
  afterEach(() => {
    vi.useRealTimers()
  })

  it('counts days over month ends and clock changes', () => {
    expect(addDays('2026-03-28', 2)).toBe('2026-03-30')
    expect(addDays('2026-01-01', -1)).toBe('2025-12-31')
  })

  it('says the year only of a date that could be taken for one of another year', () => {
    vi.setSystemTime('2026-11-28T12:00:00Z')
    expect(longDate('2026-12-03')).toBe('Thursday 3 December')
    expect(longDate('2027-01-04')).toBe('Monday 4 January')
    expect(longDate('2027-12-03')).toBe('Friday 3 December 2027')
    expect(shortDate('2025-12-03')).toBe('Wed 3 Dec 2025')
  })

  // ISO 8601: week 1 of 2027 begins on Monday 4 January, week 53 of 2026 on Monday 28 December.
  it('finds where a week begins, on Monday (ISO 8601) or as the workspace has it', () => {
    expect(weekOf('2027-01-03', 1)).toBe('2026-12-28')
    expect(weekOf('2027-01-04', 1)).toBe('2027-01-04')
    expect(weekOf('2027-01-03', 0)).toBe('2027-01-03')
    expect(weekOf('2027-01-08', 6)).toBe('2027-01-02')
  })
})

describe('a 12-hour clock', () => {
  // Midnight is 12 am and noon 12 pm (common practice).
  it('writes times and hours in halves of the day', () => {
    showTwelve(true)
    expect([0, 30, 59 + 11 * 60, 720, 781, 1439, 1440].map(minuteText)).toEqual([
      '12:00 am',
      '12:30 am',
      '11:59 am',
      '12:00 pm',
      '1:01 pm',
      '11:59 pm',
      '12:00 am',
    ])
    expect([0, 480, 720, 1020].map(hourText)).toEqual(['12 am', '8 am', '12 pm', '5 pm'])
    showTwelve(false)
    expect([hourText(480), minuteText(480)]).toEqual(['08', '08:00'])
  })
})

describe('zones', () => {
  it('lists all by region, with the own one even if unknown', () => {
    const regions = new Map(zonesByRegion('Mars/Olympus_Mons'))
    expect(regions.get('Mars')).toEqual(['Mars/Olympus_Mons'])
    expect(regions.get('Europe')).toContain('Europe/Lisbon')
    expect(placeOf('America/Argentina/Buenos_Aires')).toBe('Buenos Aires')
  })
})

describe('a look at open times', () => {
  const open = {
    now: '2026-11-30T08:00:00Z',
    earliest: '2026-11-30T12:00:00Z',
    starts: ['2026-11-29T22:00:00Z', '2026-11-30T02:00:00Z', '2026-12-01T03:30:00Z', '2027-01-04T12:00:00Z'],
  }

  it("groups starts by the client's day and drops what lies outside the weeks shown", () => {
    const halifax = lookAt(open, '2026-11-30', 1, 'America/Halifax')
    expect([...halifax.byDate.keys()]).toEqual(['2026-11-30'])
    const singapore = lookAt(open, '2026-11-30', 1, 'Asia/Singapore')
    expect([...singapore.byDate].map(([date, starts]) => [date, starts.length])).toEqual([
      ['2026-11-30', 2],
      ['2026-12-01', 1],
    ])
  })
})
