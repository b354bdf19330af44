import type { CSSProperties, ReactNode } from 'react'
import { hourText } from '../time/time'
import { type Axis, box, hoursOn, place, type Stretch, thinned } from './geometry'
import { useSize } from './useSize'

/** The hours above a ribbon. shown turns a minute of the axis into what stands there. */
export function Ruler({ axis, every = 60, shown }: { axis: Axis; every?: number; shown?: (minute: number) => string }) {
  const [ref, width] = useSize<HTMLDivElement>()
  const words = shown ?? hourText
  const step = thinned(axis, width, 8 * Math.max(...hoursOn(axis).map((minute) => words(minute).length)) + 6, every)
  return (
    <div ref={ref} className="ruler" aria-hidden="true">
      {hoursOn(axis)
        .filter((minute) => minute % step === 0)
        .map((minute) => (
          <span key={minute} style={{ left: `${place(minute, axis) * 100}%` }}>
            {words(minute)}
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
