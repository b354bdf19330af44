import type { Schemas } from '../../api/client'
import { useGo } from '../../edit/unsaved'
import { dayAndMonth, wallClock } from '../../time/time'

/** What is known of a client who books once more: how often they were here, how that went, what was noted; and the way to all of it. */
export function SoFar({ soFar, mail, zone }: { soFar: Schemas['ClientSoFar']; mail: string; zone: string }) {
  const go = useGo()
  if (soFar.bookings === 0 && !soFar.notes) return <>First booking.</>
  const said = [
    soFar.bookings === 1 ? '1 other booking' : `${soFar.bookings} other bookings`,
    soFar.last && `last met on ${dayAndMonth(wallClock(new Date(soFar.last), zone).date)}`,
    soFar.noShows > 0 && `${soFar.noShows} no-show${soFar.noShows === 1 ? '' : 's'}`,
  ]
  return (
    <>
      {soFar.bookings > 0 ? (
        <button type="button" className="link" onClick={() => go(`/clients/${encodeURIComponent(mail)}`)}>
          {said.filter(Boolean).join(', ')}
        </button>
      ) : (
        'First booking'
      )}
      .{soFar.notes && ` Noted: “${soFar.notes}”.`}
    </>
  )
}
