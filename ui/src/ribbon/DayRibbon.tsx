import type { ReactNode } from 'react'
import type { Schemas } from '../api/client'
import { say } from '../say'
import { minuteText } from '../time/time'
import { type Axis, box, place, type Stretch } from './geometry'
import { labelled } from './labels'
import { laneBox, type Placed, placeNames } from './names'
import { Ground, Mark, Ticks } from './Ribbon'
import { SeatMarks } from './SeatMarks'
import { useSize } from './useSize'

export type Day = Schemas['Ribbon']

/** From so many pixels of height on, a name and a tick stand above each other. */
const nameAboveTicks = 36

interface DayProps {
  day: Day
  axis: Axis
  name: string
  now?: number
  /** What lies over it, to be pressed. */
  children?: ReactNode
}

/** A host's day with all its marks. Names that have no room on it stand below, by their numbers. */
export function DayRibbon({ day: given, axis, name, now, children }: DayProps) {
  const day = { ...given, busy: labelled(given.busy), bookings: labelled(given.bookings) }
  const [ref, width, height] = useSize<HTMLDivElement>()
  // On a low ribbon the ticks of open starts reach up to where a name would stand.
  const ticks = height < nameAboveTicks ? [...day.kept, ...day.gained, ...day.lost] : []
  const inTheWay = [...day.busy, ...ticks.map((minute) => ({ from: minute, to: minute + 1 }))]
  const names = placeNames(day.bookings, inTheWay, axis, width)
  return (
    <div>
      <div ref={ref} className="relative">
        <Marks day={day} axis={axis} name={name} names={names} {...(now === undefined ? {} : { now })} />
        {children}
      </div>
      <NamesBelow bookings={day.bookings} names={names} />
    </div>
  )
}

function NamesBelow({ bookings, names }: { bookings: Schemas['Booked'][]; names: Placed[] }) {
  const below = bookings.filter((_, i) => names[i]?.name === 'key')
  if (below.length === 0) return null
  return (
    <p aria-hidden="true" className="figures text-small text-ink-2">
      {below.map((booking, i) => (
        <span key={booking.id} className="mr-3">
          <b className="font-semibold text-ink">{i + 1}</b> {booking.label}
        </span>
      ))}
    </p>
  )
}

function Marks({ day, axis, name, names, now }: DayProps & { names: Placed[] }) {
  return (
    <Ground axis={axis} label={describe(name, day)}>
      {day.open.map((s) => (
        <Mark key={s.from} kind="open" stretch={s} axis={axis} />
      ))}
      {day.tooSoon.map((s) => (
        <Within key={s.from} kind="soon" stretch={s} of={day.open} axis={axis} />
      ))}
      {day.outside.map((s) => (
        <Mark key={s.from} kind="outside" stretch={s} axis={axis} />
      ))}
      {day.busy.map((s) => (
        <Mark
          key={`${s.from} ${s.to} ${s.label}`}
          kind={`busy hatch-${s.pattern ?? 'rising'} tone-${s.tone ?? 'ink'}`}
          stretch={s}
          axis={axis}
          title={whereItLives(s)}
        />
      ))}
      {day.shown?.map((s) => (
        <Mark
          key={`${s.from} ${s.label}`}
          kind="shown"
          stretch={s}
          axis={axis}
          title={say.ribbon.blocksNothing(whereItLives(s))}
        />
      ))}
      {day.bookings.map((b, i) => (
        <BookingMarks
          key={b.id}
          booking={b}
          axis={axis}
          {...(names[i] ? { placed: names[i] } : {})}
          over={now !== undefined && b.to <= now}
        />
      ))}
      <Ticks minutes={day.kept} axis={axis} />
      <Ticks minutes={day.gained} axis={axis} kind="tick-gained" />
      <Ticks minutes={day.lost} axis={axis} kind="tick-lost" />
      {now !== undefined && now > axis.from && now < axis.to && (
        <div className="now" style={{ left: `${place(now, axis) * 100}%` }} />
      )}
    </Ground>
  )
}

/** "Dentist 15:00–16:00, lives in Family": events from elsewhere are changed there. */
function whereItLives({ label, from, to, calendar }: Day['busy'][number]): string {
  const times = `${label || say.ribbon.busyTitle} ${minuteText(from)}–${minuteText(to)}`
  return calendar ? say.ribbon.lives(times, calendar) : times
}

/** A mark only where the hours are open: elsewhere nothing could be taken. */
function Within({ kind, stretch, of, axis }: { kind: string; stretch: Stretch; of: Stretch[]; axis: Axis }) {
  return of.map((open) => (
    <Mark
      key={open.from}
      kind={kind}
      axis={axis}
      stretch={{ from: Math.max(stretch.from, open.from), to: Math.min(stretch.to, open.to) }}
    />
  ))
}

const alone: Placed = { lane: 0, lanes: 1, name: 'inside', key: 0 }

interface BookingMarksProps {
  booking: Schemas['Booked']
  axis: Axis
  placed?: Placed
  over: boolean
}

/** A booking with the buffers that are kept around it. */
export function BookingMarks({ booking, axis, placed = alone, over }: BookingMarksProps) {
  const where = box(booking, axis)
  const end = box({ from: booking.to, to: axis.to }, axis)
  const lane = laneBox(placed)
  return (
    <>
      <Mark kind="buffer" stretch={{ from: booking.keptFrom, to: booking.from }} axis={axis} />
      <Mark kind="buffer" stretch={{ from: booking.to, to: booking.keptUntil }} axis={axis} />
      {where && (
        <div
          className={`mark mark-booked ${over ? 'over' : ''} ${placed.name === 'key' ? 'numbered' : ''}`}
          style={{ ...where, ...lane, bottom: 'auto' }}
          title={`${minuteText(booking.from)} ${booking.label}`}
        >
          {placed.name === 'inside' && booking.label}
          {booking.filling && <SeatMarks filling={booking.filling} />}
          {placed.name === 'key' && placed.key}
        </div>
      )}
      {placed.name === 'beside' && end && (
        <div className="mark-name" style={{ left: end.left, top: lane.top }}>
          {booking.label}
        </div>
      )}
    </>
  )
}

const seatsOf = ({ filling }: Schemas['Booked']) => filling && say.today.seatsTaken(filling.taken, filling.seats)

/** What a ribbon shows, for those who don't see it. */
export function describe(name: string, day: Day): string {
  const times = (stretches: Stretch[]) =>
    stretches.map((s) => say.ribbon.to(minuteText(s.from), minuteText(s.to))).join(', ')
  const said = [name, day.open.length ? say.ribbon.open(times(day.open)) : say.ribbon.closed]
  if (day.busy.length) said.push(say.ribbon.busy(times(day.busy)))
  if (day.shown?.length) said.push(say.ribbon.shownOnly(times(day.shown)))
  for (const b of day.bookings)
    said.push(say.ribbon.booked(times([b]), [b.label, seatsOf(b)].filter(Boolean).join(', ')))
  const starts = day.kept.length + day.gained.length
  if (starts || day.lost.length) said.push(say.ribbon.openStart(starts))
  if (day.gained.length) said.push(say.ribbon.gained(day.gained.length))
  if (day.lost.length) said.push(say.ribbon.lost(day.lost.length))
  return said.join('; ')
}
