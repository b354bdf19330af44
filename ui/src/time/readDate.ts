import { addDays, monthNames, weekdaysFromSunday, weekdaysShort } from './time'

const months = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec']
const weekdays = ['sunday', 'monday', 'tuesday', 'wednesday', 'thursday', 'friday', 'saturday']

/** The date that somebody means by "4 dec", "4.12.", "fri", "tomorrow" or "2026-12-04", or null: in English, or in the language that is
 *  spoken. Without a year, it is the one that is nearest, rather ahead; a weekday is the next one, today included. near is how many
 *  days ahead those are that have names of their own. */
export function readDate(text: string, today: string, near: Record<string, number>): string | null {
  const said = text
    .trim()
    .toLowerCase()
    .replace(/,/g, '')
    .replace(/(?<=\p{L})\./gu, '')
  if (said in near) return addDays(today, near[said] ?? 0)
  const iso = /^(\d{4})-(\d{1,2})-(\d{1,2})$/.exec(said)
  if (iso) return dated(iso[1], iso[2], iso[3])
  const weekday = /^(?:next )?(\p{L}{2,})$/u.exec(said)?.[1]
  if (weekday) return nextWeekday(weekday, today)
  // A weekday before a date says nothing more than the date does.
  const [, day, month, year] =
    /^(?:\p{L}{2,10} )?(\d{1,2})(?:st|nd|rd|th|\.)? (\p{L}{3,9})(?: (\d{4}))?$/u.exec(said) ??
    /^(?:\p{L}{2,10} )?(\d{1,2})[./](\d{1,2})[./]?(\d{4})?$/u.exec(said) ??
    []
  const monthFirst = /^(\p{L}{3,9}) (\d{1,2})(?: (\d{4}))?$/u.exec(said)
  if (day && month) return inYear(day, monthNumber(month), year, today)
  if (monthFirst) return inYear(monthFirst[2] ?? '', monthNumber(monthFirst[1] ?? ''), monthFirst[3], today)
  return null
}

function monthNumber(text: string): number {
  const own = monthNames().map((name) => name.toLowerCase())
  return Number(text) || months.findIndex((name, i) => text.startsWith(name) || own[i]?.startsWith(text)) + 1
}

function nextWeekday(said: string, today: string): string | null {
  const wanted = weekdayNumber(said)
  if (wanted < 0) return null
  const now = new Date(`${today}T12:00:00Z`).getUTCDay()
  return addDays(today, (wanted - now + 7) % 7)
}

/** From 0 for Sunday; -1 for none. English takes three letters, another language the short names that it has. */
function weekdayNumber(said: string): number {
  const short = weekdaysShort().findIndex((name) => name.toLowerCase().replace('.', '') === said)
  if (short >= 0) return (short + 1) % 7
  const own = weekdaysFromSunday().map((name) => name.toLowerCase())
  return said.length < 3 ? -1 : weekdays.findIndex((name, i) => name.startsWith(said) || own[i]?.startsWith(said))
}

/** A date that is further back than this is rather one of next year. */
const backAtMost = 60

function inYear(day: string, month: number, year: string | undefined, today: string): string | null {
  if (year) return dated(year, String(month), day)
  const thisYear = Number(today.slice(0, 4))
  const found = dated(String(thisYear), String(month), day)
  if (found && found >= addDays(today, -backAtMost)) return found
  return dated(String(thisYear + 1), String(month), day) ?? found
}

/** The date, if there is such a one. */
function dated(year = '', month = '', day = ''): string | null {
  const date = `${year}-${month.padStart(2, '0')}-${day.padStart(2, '0')}`
  const at = new Date(`${date}T12:00:00Z`)
  return !Number.isNaN(at.getTime()) && at.toISOString().startsWith(date) ? date : null
}
