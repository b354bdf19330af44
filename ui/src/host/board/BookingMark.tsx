import { useRef } from 'react'
import type { Schemas } from '../../api/client'
import { type Axis, box } from '../../ribbon/geometry'
import { labelOf } from '../../ribbon/labels'
import { type Lane, laneBox } from '../../ribbon/names'
import { say } from '../../say'
import { minuteText } from '../../time/time'
import { useCarrying } from './Carry'

interface Props {
  booking: Schemas['Booked']
  /** Its row on the board. */
  row: number
  axis: Axis
  /** Which share of the row's height it has. */
  lane: Lane
  onOpen: (id: number) => void
}

/** So far, in pixels, a pointer goes before it carries the booking. */
const slack = 4

/** A booking on the board: carried to another place, or pressed to see everything about it. */
export function BookingMark({ booking, row, axis, lane, onOpen }: Props) {
  const { lift } = useCarrying()
  const pressed = useRef<{ x: number; y: number } | null>(null)
  const load = { booking, from: { row, minute: booking.from } }
  const where = box(booking, axis)
  if (!where) return null
  const label = labelOf(booking)
  return (
    <button
      type="button"
      className="mark cursor-grab touch-none bg-transparent focus-visible:outline-2 focus-visible:outline-act"
      style={{ ...where, ...laneBox(lane), bottom: 'auto' }}
      aria-label={say.board.mark(
        label,
        minuteText(booking.from),
        minuteText(booking.to),
        booking.begun ? say.board.didTheyCome : say.board.moveCancel,
      )}
      aria-keyshortcuts="m"
      title={say.board.dragKeyMCarry(label)}
      onClick={(event) => {
        const carried = event.detail > 0 && !pressed.current
        pressed.current = null
        if (!carried) onOpen(booking.id)
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
  )
}
