import { type DateWords, english } from './words'

/** Instants shown on the wall clock of a zone; nothing here computes availability. */

/** The part of Temporal (ECMA-262's own calendar and zones) that is used where the browser has it: Intl does the same, later. */
interface Temporal {
  Now: { timeZoneId(): string }
  Instant: {
    fromEpochMilliseconds(at: number): { toZonedDateTimeISO(zone: string): { toString(): string; offset: string } }
  }
}

function temporal(): Temporal | undefined {
  return (globalThis as { Temporal?: Temporal }).Temporal
}

const formatters = new Map<string, Intl.DateTimeFormat>()

function formatter(zone: string, options: Intl.DateTimeFormatOptions): Intl.DateTimeFormat {
  const key = zone + JSON.stringify(options)
  let known = formatters.get(key)
  if (!known) {
    known = new Intl.DateTimeFormat('en-GB', { timeZone: zone, ...options })
    formatters.set(key, known)
  }
  return known
}

const parts = {
  year: 'numeric',
  month: '2-digit',
  day: '2-digit',
  hour: '2-digit',
  minute: '2-digit',
  hourCycle: 'h23',
} as const

/** What a wall clock in the zone shows: the date as 2026-12-03 and the minutes past its midnight. */
export function wallClock(at: Date, zone: string): { date: string; minute: number } {
  const [date = '', time = ''] = (zoned(at, zone)?.toString() ?? zonedByIntl(at, zone)).split('T')
  return { date, minute: Number(time.slice(0, 2)) * 60 + Number(time.slice(3, 5)) }
}

function zoned(at: Date, zone: string) {
  return temporal()?.Instant.fromEpochMilliseconds(at.getTime()).toZonedDateTimeISO(zone)
}

/** "2026-12-03T10:15" */
function zonedByIntl(at: Date, zone: string): string {
  const found: Record<string, string> = {}
  for (const { type, value } of formatter(zone, parts).formatToParts(at)) found[type] = value
  return `${found.year}-${found.month}-${found.day}T${found.hour}:${found.minute}`
}

/** The instant at which a zone's wall clock shows a minute of a date: the first of two in an autumn night. */
export function instantAt(date: string, minute: number, zone: string): Date {
  const wanted = Date.parse(`${date}T00:00:00Z`) + minute * 60_000
  // A guess is corrected by what the clock shows at it; begun a day early, it comes upon the first of two.
  let at = wanted - 24 * 3_600_000
  for (let i = 0; i < 3; i++) {
    const shown = wallClock(new Date(at), zone)
    at += wanted - (Date.parse(`${shown.date}T00:00:00Z`) + shown.minute * 60_000)
  }
  return new Date(at)
}

/** From when to when on a zone's clock; where the clock is changed in between, with its offsets, or it might seem to run backwards. */
export function clockRange(from: Date, to: Date, zone: string): [from: string, to: string] {
  const offsets = [offsetOf(from, zone), offsetOf(to, zone)]
  const more = offsets[0] === offsets[1] ? ['', ''] : offsets.map((offset) => ` (${offset})`)
  return [`${clock(from, zone)}${more[0]}`, `${clock(to, zone)}${more[1]}`]
}

/** "10:15" */
export function clock(at: Date, zone: string): string {
  return minuteText(wallClock(at, zone).minute)
}

let twelve = false

/** Whether times stand on a 12-hour clock. */
export function showTwelve(on: boolean): void {
  twelve = on
}

/** "10:15" for 615 whatever the clock that is shown: as fields and the server take it. */
export function fieldClock(minute: number): string {
  return `${String(Math.floor(minute / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`
}

/** 615 for "10:15", as the server writes it. */
export function minuteOfClock(clock: string): number {
  const [hours = 0, minutes = 0] = clock.split(':').map(Number)
  return hours * 60 + minutes
}

/** "10:15" for 615; 1440 is "24:00". On a 12-hour clock "10:15 am", and 1440 is "12:00 am". */
export function minuteText(minute: number): string {
  if (twelve) return `${hourOfTwelve(minute)}:${String(minute % 60).padStart(2, '0')} ${halfOf(minute)}`
  return fieldClock(minute)
}

/** An hour on a ruler: "10", or "10 am". */
export function hourText(minute: number): string {
  return twelve ? `${hourOfTwelve(minute)} ${halfOf(minute)}` : minuteText(minute).slice(0, 2)
}

function hourOfTwelve(minute: number): number {
  return Math.floor(minute / 60) % 12 || 12
}

function halfOf(minute: number): string {
  return minute % 1440 < 720 ? 'am' : 'pm'
}

/** The language of the names of days and months; everything else is figures. */
let spoken = english

export function speakDatesIn(words: DateWords): void {
  spoken = words
}

/** "Thursday 3 December", of a date like 2026-12-03; with its year where it is far off. */
export function longDate(date: string): string {
  const at = noon(date)
  return yearIfFar(spoken.long(weekdayName(date), at.getUTCDate(), spoken.months[at.getUTCMonth()] ?? ''), at)
}

/** So many days away, a date without its year could be taken for one of another year. */
const near = 180

function yearIfFar(words: string, at: Date): string {
  const days = Math.abs(at.getTime() - Date.now()) / (24 * 3_600_000)
  return days > near ? spoken.withYear(words, at.getUTCFullYear()) : words
}

/** "Thu 3 Dec", with its year where it is far off. */
export function shortDate(date: string): string {
  const at = noon(date)
  const weekday = spoken.weekdaysShort[at.getUTCDay()] ?? ''
  return yearIfFar(spoken.short(weekday, at.getUTCDate(), spoken.monthsShort[at.getUTCMonth()] ?? ''), at)
}

/** "Thu 3 Dec", and its year wherever that is not this one. */
export function shortDateInYear(date: string, today: string): string {
  const short = shortDate(date)
  const year = date.slice(0, 4)
  return year === today.slice(0, 4) || short.endsWith(year) ? short : `${short} ${year}`
}

/** "3 Dec" */
export function dayAndMonth(date: string): string {
  const at = noon(date)
  return spoken.dayAndMonth(at.getUTCDate(), spoken.monthsShort[at.getUTCMonth()] ?? '')
}

/** "Thursday" */
export function weekdayName(date: string): string {
  return spoken.weekdays[noon(date).getUTCDay()] ?? ''
}

/** The days of a week from Monday on: "Monday". */
export function weekdays(): string[] {
  return fromMonday(spoken.weekdays)
}

/** The same, short: "Mon". */
export function weekdaysShort(): string[] {
  return fromMonday(spoken.weekdaysShort)
}

/** From Sunday on, as weekdays are counted. */
export function weekdaysFromSunday(): readonly string[] {
  return spoken.weekdays
}

/** From January on. */
export function monthNames(): readonly string[] {
  return spoken.months
}

function fromMonday(days: readonly string[]): string[] {
  return [...days.slice(1), ...days.slice(0, 1)]
}

/** "T" for a Thursday, or its letter in the language. */
export function weekdayLetter(date: string): string {
  return spoken.weekdayLetters.charAt(noon(date).getUTCDay())
}

function noon(date: string): Date {
  return new Date(`${date}T12:00:00Z`)
}

/** The date so many days later. */
export function addDays(date: string, days: number): string {
  const at = noon(date)
  at.setUTCDate(at.getUTCDate() + days)
  return at.toISOString().slice(0, 10)
}

/** The first day of the date's week, which begins on a weekday from 0 (Sunday) to 6; ISO 8601 weeks begin on 1. */
export function weekOf(date: string, firstWeekday: number): string {
  return addDays(date, -((noon(date).getUTCDay() - firstWeekday + 7) % 7))
}

/** "São Paulo" for America/Sao_Paulo, in the language that is spoken. */
export function placeOf(zone: string): string {
  return spoken.towns[zone] ?? zone.slice(zone.lastIndexOf('/') + 1).replaceAll('_', ' ')
}

/** "UTC−4", "UTC+5:45" or "UTC" at that moment. */
export function offsetOf(at: Date, zone: string): string {
  const found = /([+-])(\d\d):(\d\d)/.exec(zoned(at, zone)?.offset ?? offsetByIntl(at, zone))
  if (!found || /^00:?00$/.test(`${found[2]}${found[3]}`)) return 'UTC'
  const minutes = found[3] === '00' ? '' : `:${found[3]}`
  return `UTC${found[1] === '-' ? '−' : '+'}${Number(found[2])}${minutes}`
}

function offsetByIntl(at: Date, zone: string): string {
  const name = formatter(zone, { timeZoneName: 'longOffset' }).formatToParts(at)
  return name.find((part) => part.type === 'timeZoneName')?.value ?? ''
}

/** The browser's zone, or UTC if it doesn't say. */
export function ownZone(): string {
  return temporal()?.Now.timeZoneId() || Intl.DateTimeFormat().resolvedOptions().timeZone || 'UTC'
}

/** All zones by region, for a list to choose from. own is in it even if the browser's list lacks it. */
export function zonesByRegion(own: string): [region: string, zones: string[]][] {
  const regions = new Map<string, string[]>()
  for (const zone of new Set([...Intl.supportedValuesOf('timeZone'), 'UTC', own])) {
    const region = zone.includes('/') ? zone.slice(0, zone.indexOf('/')) : 'Other'
    regions.set(region, [...(regions.get(region) ?? []), zone])
  }
  return [...regions].map(([region, zones]) => [region, zones.sort()])
}
