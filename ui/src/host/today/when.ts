import { minuteText, shortDate, wallClock } from '../../time/time'

/** "Thu 3 Dec, 10:15" */
export function shortWhen(at: Date, zone: string): string {
  const { date, minute } = wallClock(at, zone)
  return `${shortDate(date)}, ${minuteText(minute)}`
}
