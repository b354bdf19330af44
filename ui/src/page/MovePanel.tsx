import { useEffect, useState } from 'react'
import { api, need, type Refusal, refusalOf, type Schemas } from '../api/client'
import { Button, Need } from '../kit/kit'
import { clock, longDate, wallClock } from '../time/time'
import { Chooser, firstOpen } from './Chooser'
import { intoFocus, secretOf } from './link'
import { useOpenTimes } from './open'
import { said, useTexts } from './texts'

interface Props {
  booking: Schemas['ClientBooking']
  onMoved: (booking: Schemas['ClientBooking']) => void
  onKeep: () => void
}

/** Choosing another time for a booking; the old one is kept until the new one is booked. */
export function MovePanel({ booking, onMoved, onKeep }: Props) {
  const t = useTexts()
  const [, , workspace = '', type = ''] = booking.page.split('/')
  const [page, setPage] = useState<Schemas['Page'] | null>(null)
  const [refusal, setRefusal] = useState<Refusal | null>(null)
  const [later, setLater] = useState(0)
  const [date, setDate] = useState<string | null>(null)
  const [start, setStart] = useState<Date | null>(null)
  // Seats taken with it at the same time, itself among them: they move together unless the client wants to part.
  const seats = booking.seats.filter((s) => s.start === booking.start && s.state === booking.state).length
  const [all, setAll] = useState(true)
  const minutes = Math.round((Date.parse(booking.end) - Date.parse(booking.start)) / 60_000)
  const firstWeekday = page?.firstWeekday ?? 1
  const asked = { workspace, type, firstWeekday, length: 0, link: secretOf(booking) }
  const times = useOpenTimes(asked, booking.zone, later)

  useEffect(() => {
    need(api.GET('/public/{workspace}/{type}', { params: { path: { workspace, type } } })).then(setPage, (error) =>
      setRefusal(refusalOf(error)),
    )
  }, [workspace, type])

  const move = async () => {
    if (!start) return
    try {
      onMoved(
        await need(
          api.POST('/bookings/{link}/move', {
            params: { path: { link: secretOf(booking) } },
            body: { start: start.toISOString(), all: all && seats > 1 },
          }),
        ),
      )
    } catch (error) {
      setRefusal(refusalOf(error))
      setStart(null)
      void times.reload()
    }
  }
  const choose = (at: Date) => {
    setStart(at)
    setRefusal(null)
  }

  return (
    <section
      ref={intoFocus}
      tabIndex={-1}
      aria-label={t.moveThis}
      className="mt-8 border-t border-rule pt-5 outline-none"
    >
      {page && (
        <Chooser
          page={{ ...page, waiting: '', ...(page.zones === 'client' ? {} : { hostZone: booking.zone }) }} // there is no waiting with a seat
          minutes={minutes}
          zone={booking.zone}
          times={times}
          later={later}
          onLater={setLater}
          date={date ?? (times.look && firstOpen(times.look, booking.zone))}
          onDate={setDate}
          chosen={start}
          onChoose={choose}
        >
          <div className="h-fit border-t-3 border-act bg-sheet px-5 py-4">
            <h2>{t.anotherTime}</h2>
            <p className="mt-1 text-ink-2">
              {start
                ? t.instead(longDate(wallClock(start, booking.zone).date), clock(start, booking.zone))
                : t.untilThen}
            </p>
            {seats > 1 && (
              <label className="mt-3 flex items-baseline gap-2">
                <input
                  type="checkbox"
                  className="accent-act"
                  checked={all}
                  onChange={(event) => setAll(event.target.checked)}
                />
                {t.allSeats(seats)}
              </label>
            )}
            <div className="mt-4 flex gap-3">
              <Button onClick={move} disabled={!start}>
                {start ? t.moveTo(clock(start, booking.zone)) : t.move}
              </Button>
              <Button kind="plain" onClick={onKeep}>
                {t.keepOld}
              </Button>
            </div>
          </div>
        </Chooser>
      )}
      {refusal && <Need className="mt-4">{said(t, refusal.told)}</Need>}
    </section>
  )
}
