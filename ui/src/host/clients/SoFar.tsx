import type { Schemas } from '../../api/client'
import { useGo } from '../../edit/unsaved'
import { say } from '../../say'
import { dayAndMonth, wallClock } from '../../time/time'

/** What is known of a client who books once more: how often they were here, how that went, what was noted; and the way to all of it. */
export function SoFar({ soFar, mail, zone }: { soFar: Schemas['ClientSoFar']; mail: string; zone: string }) {
  const go = useGo()
  if (soFar.bookings === 0 && !soFar.notes) return <>{say.clients.firstBookingSentence}</>
  const said = [
    say.clients.otherBookings(soFar.bookings),
    soFar.last && say.clients.lastMet(dayAndMonth(wallClock(new Date(soFar.last), zone).date)),
    soFar.noShows > 0 && say.clients.noShow(soFar.noShows),
  ]
  return (
    <>
      {soFar.bookings > 0 ? (
        <button type="button" className="link" onClick={() => go(`/clients/${encodeURIComponent(mail)}`)}>
          {said.filter(Boolean).join(', ')}
        </button>
      ) : (
        say.clients.firstBooking
      )}
      .{soFar.notes && say.clients.noted(soFar.notes)}
    </>
  )
}
