import type { CSSProperties, ReactNode } from 'react'
import type { Schemas } from '../api/client'
import { hourText, minuteText } from '../time/time'
import { type Axis, box, hoursOn, place, type Stretch } from './geometry'

export type Day = Schemas['Ribbon']

/** The hours above a ribbon. shown turns a minute of the axis into what stands there. */
export function Ruler({ axis, every = 60, shown }: { axis: Axis; every?: number; shown?: (minute: number) => string }) {
  return (
    <div className="ruler" aria-hidden="true">
      {hoursOn(axis)
        .filter((minute) => minute % every === 0)
        .map((minute) => (
          <span key={minute} style={{ left: `${place(minute, axis) * 100}%` }}>
            {shown ? shown(minute) : hourText(minute)}
          </span>
        ))}
    </div>
  )
}

/** A ribbon's ground with its hour marks; what lies on it are its children. */
export function Ground(props: { axis: Axis; label: string; className?: string; children?: ReactNode }) {
  const hours = (props.axis.to - props.axis.from) / 60
  return (
    <div
      className={`ribbon ${props.className ?? ''}`}
      role="img"
      aria-label={props.label}
      style={{ '--hours': hours } as CSSProperties}
    >
      {props.children}
      <div className="ribbon-hours" />
    </div>
  )
}

/** One stretch of a ribbon, if any of it is on the axis. */
export function Mark(props: { kind: string; stretch: Stretch; axis: Axis; title?: string; children?: ReactNode }) {
  const where = box(props.stretch, props.axis)
  if (!where) return null
  return (
    <div className={`mark mark-${props.kind}`} style={where} title={props.title}>
      {props.children}
    </div>
  )
}

/** Starts as ticks standing on the ribbon. */
export function Ticks({ minutes, axis, kind = '' }: { minutes: number[]; axis: Axis; kind?: string }) {
  return [...new Set(minutes)] // in an autumn night two starts can show one clock
    .filter((minute) => minute >= axis.from && minute <= axis.to)
    .map((minute) => <div key={minute} className={`tick ${kind}`} style={{ left: `${place(minute, axis) * 100}%` }} />)
}

/** A host's day with all its marks. */
export function DayRibbon({ day, axis, name, now }: { day: Day; axis: Axis; name: string; now?: number }) {
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
          title={`${whereItLives(s)}, blocks nothing`}
        />
      ))}
      {day.bookings.map((b) => (
        <BookingMarks key={b.id} booking={b} axis={axis} over={now !== undefined && b.to <= now} />
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
  const times = `${label || 'Busy'} ${minuteText(from)}–${minuteText(to)}`
  return calendar ? `${times}, lives in ${calendar}` : times
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

/** A booking with the buffers that are kept around it. */
export function BookingMarks({ booking, axis, over }: { booking: Schemas['Booked']; axis: Axis; over: boolean }) {
  return (
    <>
      <Mark kind="buffer" stretch={{ from: booking.keptFrom, to: booking.from }} axis={axis} />
      <Mark
        kind={over ? 'booked over' : 'booked'}
        stretch={booking}
        axis={axis}
        title={`${minuteText(booking.from)} ${booking.label}`}
      >
        {booking.label}
      </Mark>
      <Mark kind="buffer" stretch={{ from: booking.to, to: booking.keptUntil }} axis={axis} />
    </>
  )
}

/** What a ribbon shows, for those who don't see it. */
export function describe(name: string, day: Day): string {
  const times = (stretches: Stretch[]) =>
    stretches.map((s) => `${minuteText(s.from)} to ${minuteText(s.to)}`).join(', ')
  const said = [name, day.open.length ? `open ${times(day.open)}` : 'closed']
  if (day.busy.length) said.push(`busy ${times(day.busy)}`)
  if (day.shown?.length) said.push(`shown only ${times(day.shown)}`)
  for (const b of day.bookings) said.push(`booked ${times([b])} ${b.label}`)
  const starts = day.kept.length + day.gained.length
  if (starts || day.lost.length) said.push(`${starts} open start${starts === 1 ? '' : 's'}`)
  if (day.gained.length) said.push(`${day.gained.length} gained`)
  if (day.lost.length) said.push(`${day.lost.length} lost`)
  return said.join('; ')
}
