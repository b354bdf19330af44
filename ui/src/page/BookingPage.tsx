import { useState } from 'react'
import { api, need, type Refusal, refusalOf, type Schemas } from '../api/client'
import { Button, Need, TextField } from '../kit/kit'
import { clock, longDate, offsetOf, placeOf, wallClock } from '../time/time'
import { Frame } from './Frame'
import { MovePanel } from './MovePanel'

type Booking = Schemas['ClientBooking']

interface Props {
  booking: Booking
  fresh: boolean
  onChange: (booking: Booking) => void
}

/** The secret of the booking's link. */
export function secretOf(booking: Booking): string {
  return booking.link.slice('/b/'.length)
}

/** A booking as its client sees it: the facts, and what can be done. */
export function BookingPage({ booking, fresh, onChange }: Props) {
  const [doing, setDoing] = useState<'nothing' | 'moving' | 'cancelling'>('nothing')
  const done = (next: Booking) => {
    setDoing('nothing')
    onChange(next)
  }
  const standing = booking.state === 'booked' && !booking.over
  return (
    <Frame workspace={booking.workspace}>
      <h1 className="text-[22px] sm:text-[29px]">{headline(booking, fresh)}</h1>
      {fresh && standing && (
        <p className="mt-1 text-ink-2">
          The invitation is on its way to <b className="font-semibold">{booking.mail}</b>.
        </p>
      )}
      <Facts booking={booking} />
      {doing === 'nothing' && (
        <Actions
          booking={booking}
          standing={standing}
          onMove={() => setDoing('moving')}
          onCancel={() => setDoing('cancelling')}
        />
      )}
      {doing === 'moving' && <MovePanel booking={booking} onMoved={done} onKeep={() => setDoing('nothing')} />}
      {doing === 'cancelling' && (
        <CancelPanel booking={booking} onCancelled={done} onKeep={() => setDoing('nothing')} />
      )}
    </Frame>
  )
}

function headline(booking: Booking, fresh: boolean): string {
  if (booking.state === 'cancelled') return 'This meeting is cancelled.'
  if (booking.over) return 'This meeting is over.'
  return fresh ? 'Your meeting is booked.' : 'Your meeting'
}

/** "Thursday 3 December, 10:15 to 10:45 (Halifax, UTC−4)" */
function when(booking: Booking, zone: string): string {
  const [start, end] = [new Date(booking.start), new Date(booking.end)]
  const said = `${longDate(wallClock(start, zone).date)}, ${clock(start, zone)} to ${clock(end, zone)}`
  return booking.zones === 'hidden' ? said : `${said} (${placeOf(zone)}, ${offsetOf(start, zone)})`
}

function Facts({ booking }: { booking: Booking }) {
  const start = new Date(booking.start)
  const differs = booking.zones !== 'hidden' && offsetOf(start, booking.zone) !== offsetOf(start, booking.hostZone)
  const facts: [string, React.ReactNode][] = [
    ['What', booking.type],
    ['When', when(booking, booking.zone)],
  ]
  if (differs) facts.push([`On ${booking.host}'s clock`, when(booking, booking.hostZone)])
  facts.push(['With', `${booking.host}, ${booking.workspace}`])
  if (booking.state === 'booked') {
    facts.push([
      'Video room',
      booking.joinUrl ? (
        <a key="join" href={booking.joinUrl} className="break-all">
          {booking.joinUrl}
        </a>
      ) : (
        'The link is being made; it will be in your mail.'
      ),
    ])
  }
  if (booking.remark) facts.push(['Your remark', booking.remark])
  return (
    <dl className="mt-5 max-w-3xl">
      {facts.map(([word, what]) => (
        <div key={word} className="grid border-t border-rule py-2 sm:grid-cols-[12rem_1fr]">
          <dt className="text-note text-ink-2">{word}</dt>
          <dd className="whitespace-pre-line">{what}</dd>
        </div>
      ))}
    </dl>
  )
}

function Actions({
  booking,
  standing,
  onMove,
  onCancel,
}: {
  booking: Booking
  standing: boolean
  onMove: () => void
  onCancel: () => void
}) {
  if (!standing) {
    return (
      <p className="mt-5">
        <a href={booking.page}>Book another time</a>
      </p>
    )
  }
  return (
    <div className="mt-5 flex flex-wrap items-center gap-x-5 gap-y-3">
      <a
        className="rounded-(--radius) border border-act px-4 py-2 font-semibold"
        href={`${booking.link}/meeting.ics`}
        download="meeting.ics"
      >
        Add to calendar
      </a>
      <Button kind="plain" onClick={onMove}>
        Move
      </Button>
      <Button kind="text" onClick={onCancel}>
        Cancel this meeting
      </Button>
      <a href={booking.page}>Book another</a>
    </div>
  )
}

function CancelPanel({
  booking,
  onCancelled,
  onKeep,
}: {
  booking: Booking
  onCancelled: (booking: Booking) => void
  onKeep: () => void
}) {
  const [reason, setReason] = useState('')
  const [refusal, setRefusal] = useState<Refusal | null>(null)
  const cancel = async () => {
    try {
      onCancelled(
        await need(
          api.POST('/bookings/{link}/cancel', { params: { path: { link: secretOf(booking) } }, body: { reason } }),
        ),
      )
    } catch (error) {
      setRefusal(refusalOf(error))
    }
  }
  return (
    <section aria-labelledby="cancel-head" className="mt-6 max-w-xl border-t-3 border-act bg-sheet px-5 py-4">
      <h2 id="cancel-head" className="mb-3">
        Cancel this meeting?
      </h2>
      <TextField
        label={`A word to ${booking.host}`}
        placeholder="optional"
        value={reason}
        onChange={(event) => setReason(event.target.value)}
        problem={refusal?.fields.reason}
      />
      {refusal && <Need className="mt-3">{refusal.message}</Need>}
      <div className="mt-4 flex gap-3">
        <Button onClick={cancel}>Cancel the meeting</Button>
        <Button kind="plain" onClick={onKeep}>
          Keep it
        </Button>
      </div>
    </section>
  )
}
