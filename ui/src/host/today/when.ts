import { minuteText, shortDate, wallClock } from '../../time/time'

/** "Thu 3 Dec, 10:15" */
export function shortWhen(at: Date, zone: string): string {
  const { date, minute } = wallClock(at, zone)
  return `${shortDate(date)}, ${minuteText(minute)}`
}

/** How many minutes ahead something is; null if it is over, or so far ahead that nobody counts them. */
export function minutesUntil(from: Date, to: Date): number | null {
  const minutes = Math.round((to.getTime() - from.getTime()) / 60_000)
  return minutes < 0 || minutes > 12 * 60 ? null : minutes
}
