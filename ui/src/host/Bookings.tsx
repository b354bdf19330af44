import type { Schemas } from '../api/client'
import { say, toldAll } from '../say'
import { minuteText, shortDate, wallClock } from '../time/time'

/** Bookings that a change would not have allowed, each with its reasons. */
export function Bookings({ title, bookings, zone }: { title: string; bookings: Schemas['Unmade'][]; zone: string }) {
  if (bookings.length === 0) return null
  const several = new Set(bookings.map((booking) => booking.host)).size > 1
  return (
    <details className="mt-5 border-l-3 border-act pl-3 text-note">
      <summary className="cursor-pointer font-semibold text-act">{title}</summary>
      <ul className="mt-1.5 grid gap-1.5">
        {bookings.map((booking) => {
          const { date, minute } = wallClock(new Date(booking.start), zone)
          return (
            <li key={`${booking.start} ${booking.host}`}>
              <b className="font-semibold">
                {shortDate(date)} {minuteText(minute)}, {booking.client || say.shell.client}
              </b>
              {several && `, ${booking.host}`}
              <br />
              <span className="text-ink-2">{toldAll(booking.reasons)}</span>
            </li>
          )
        })}
      </ul>
    </details>
  )
}
