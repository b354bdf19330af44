import { type FormEvent, useRef, useState } from 'react'
import { api, need, type Schemas } from '../../api/client'
import { Sheet } from '../../kit/Ask'
import { Button, Need, TextField } from '../../kit/kit'
import { type Axis, box } from '../../ribbon/geometry'
import { minuteText } from '../../time/time'
import { HandTo } from '../HandTo'
import { Attendance } from '../today/Attendance'
import { useCarrying } from './Carry'
import { useBoardChange } from './change'

interface Props {
  booking: Schemas['Booked']
  date: string
  /** Its row on the board. */
  row: number
  axis: Axis
}

/** So far, in pixels, a pointer goes before it carries the booking. */
const slack = 4

/** A booking on the board: carried to another place, or pressed to be moved by a form or cancelled with a word. */
export function BookingMark({ booking, date, row, axis }: Props) {
  const [open, setOpen] = useState(false)
  const { lift } = useCarrying()
  const pressed = useRef<{ x: number; y: number } | null>(null)
  const load = { booking, from: { row, minute: booking.from } }
  const where = box(booking, axis)
  if (!where) return null
  const { label = '' } = booking
  return (
    <>
      <button
        type="button"
        className="mark cursor-grab touch-none bg-transparent focus-visible:outline-2 focus-visible:outline-act"
        style={where}
        aria-label={`${label} ${minuteText(booking.from)} to ${minuteText(booking.to)}. ${booking.begun ? 'Did they come?' : 'Move or cancel'}`}
        aria-keyshortcuts="m"
        title={`${label}. Drag it, or key m, to carry it elsewhere`}
        onClick={(event) => {
          const carried = event.detail > 0 && !pressed.current
          pressed.current = null
          if (!carried) setOpen(true)
        }}
        onKeyDown={(event) => event.key === 'm' && lift(load)}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId) // a fast hand leaves the mark at once
          pressed.current = { x: event.clientX, y: event.clientY }
        }}
        onPointerMove={(event) => {
          const start = pressed.current
          if (!start || event.buttons !== 1) return
          if (Math.hypot(event.clientX - start.x, event.clientY - start.y) < slack) return
          pressed.current = null
          lift(load, start)
        }}
      />
      <Sheet open={open} title={label} onClose={() => setOpen(false)}>
        {booking.begun ? (
          <Attendance booking={booking} />
        ) : (
          <>
            <MoveForm booking={booking} date={date} onDone={() => setOpen(false)} />
            <details className="mt-4 border-t border-rule pt-3">
              <summary className="cursor-pointer text-act">Hand over to a colleague</summary>
              <HandTo booking={booking.id} onDone={() => setOpen(false)} />
            </details>
            <CancelForm id={booking.id} onDone={() => setOpen(false)} />
          </>
        )}
      </Sheet>
    </>
  )
}

function MoveForm({ booking, date, onDone }: { booking: Schemas['Booked']; date: string; onDone: () => void }) {
  const [to, setTo] = useState({ date, clock: minuteText(booking.from) })
  const [hours = 0, minutes = 0] = to.clock.split(':').map(Number)
  const move = useBoardChange((outside: boolean) =>
    need(
      api.POST('/host-bookings/{id}/move', {
        params: { path: { id: booking.id } },
        body: { date: to.date, minute: hours * 60 + minutes, outside },
      }),
    ),
  )
  const warned = move.error?.kind === 'urn:corrim:problem:outside-rules'
  const change = (next: Partial<typeof to>) => {
    move.reset()
    setTo({ ...to, ...next })
  }
  const submit = (event: FormEvent) => {
    event.preventDefault()
    move.mutate(warned, { onSuccess: onDone })
  }
  return (
    <form onSubmit={submit} className="grid gap-3" noValidate aria-label="Move it">
      <div className="grid grid-cols-2 gap-3">
        <TextField label="Day" type="date" value={to.date} onChange={(event) => change({ date: event.target.value })} />
        <TextField
          label="From"
          type="time"
          value={to.clock}
          onChange={(event) => change({ clock: event.target.value })}
        />
      </div>
      {move.error && <Need>{move.error.fields.date ?? move.error.message}</Need>}
      <p>
        <Button type="submit" disabled={move.isPending}>
          {warned ? `Move to ${to.clock} anyway` : `Move to ${to.clock}`}
        </Button>
      </p>
    </form>
  )
}

function CancelForm({ id, onDone }: { id: number; onDone: () => void }) {
  const [word, setWord] = useState('')
  const cancel = useBoardChange(() =>
    need(api.POST('/host-bookings/{id}/cancel', { params: { path: { id } }, body: { word } })),
  )
  const submit = (event: FormEvent) => {
    event.preventDefault()
    cancel.mutate(undefined, { onSuccess: onDone })
  }
  return (
    <form onSubmit={submit} className="mt-5 grid gap-3 border-t border-rule pt-4" noValidate aria-label="Cancel it">
      <TextField
        label="Message to the client"
        placeholder="optional"
        value={word}
        onChange={(event) => setWord(event.target.value)}
      />
      {cancel.error && <Need>{cancel.error.message}</Need>}
      <p>
        <Button type="submit" kind="plain" disabled={cancel.isPending}>
          Cancel the meeting
        </Button>
      </p>
    </form>
  )
}
