import { type KeyboardEvent, type PointerEvent, type ReactNode, useRef } from 'react'
import type { Schemas } from '../../api/client'
import { BookingMarks } from '../../ribbon/DayRibbon'
import { type Axis, minuteAt, place } from '../../ribbon/geometry'
import { Ground, Mark, Ticks } from '../../ribbon/Ribbon'
import { ZoomRuler } from '../../ribbon/ZoomRuler'
import { say, told } from '../../say'
import { minuteText } from '../../time/time'

interface Props {
  reasons: Schemas['Reasons']
  axis: Axis
  /** Where the cursor is; the answer may be a moment behind it. */
  minute: number
  onAt: (minute: number) => void
  onZoom: (axis: Axis | null) => void
}

const grain = 5

/** The ribbon opened into one line per rule, with a cursor over all of them. */
export function Layers({ reasons, axis, minute, onAt, onZoom }: Props) {
  const { at, layers, ribbon } = reasons
  return (
    <div className="relative grid grid-cols-[9.5rem_minmax(0,1fr)] items-end">
      <span />
      <ZoomRuler axis={axis} onZoom={onZoom} />
      {layers.map((layer) => (
        <Line key={layer.rule} name={told(layer.name)} note={told(layer.note)}>
          <Ground
            axis={axis}
            label={`${told(layer.name)}: ${layer.causes.map((c) => say.types.blockedBy(minuteText(c.from), minuteText(c.to), c.label ?? '')).join(', ')}`}
          >
            <LayerMarks layer={layer} ribbon={ribbon} axis={axis} />
          </Ground>
        </Line>
      ))}
      <Line name={say.types.openToClients} note={startsLeft(ribbon.kept.length)} last>
        <Ground axis={axis} label={say.types.openStartsAre(ribbon.kept.map(minuteText))}>
          {ribbon.kept.map((minute) => (
            <Mark key={minute} kind="open" stretch={{ from: minute, to: minute + reasons.minutes }} axis={axis} />
          ))}
          <Ticks minutes={ribbon.kept} axis={axis} />
        </Ground>
      </Line>
      <Cursor minute={minute} open={at.open && at.minute === minute} axis={axis} onAt={onAt} />
    </div>
  )
}

function Line({ name, note, last, children }: { name: string; note: string; last?: boolean; children: ReactNode }) {
  const line = last ? 'border-y-2 border-ink' : 'border-b border-rule'
  return (
    <>
      <div className={`flex h-11.5 flex-col justify-center leading-tight ${line}`}>
        <span className={last ? 'font-semibold' : ''}>{name}</span>
        <span className="text-small text-ink-2">{note}</span>
      </div>
      <div className={`[&_.ribbon]:h-11 ${last ? 'border-y-2 border-ink' : 'border-b border-rule'}`}>{children}</div>
    </>
  )
}

/** What the rule leaves is open ground; what it takes has the mark of its kind. */
function LayerMarks({ layer, ribbon, axis }: { layer: Schemas['RuleLayer']; ribbon: Schemas['Ribbon']; axis: Axis }) {
  const whole = { from: 0, to: 1440 }
  const kind = { notice: 'soon', busy: 'busy', limit: 'limit' }[layer.rule] ?? 'outside'
  switch (layer.rule) {
    case 'hours':
      return ribbon.open.map((s) => <Mark key={s.from} kind="open" stretch={s} axis={axis} />)
    case 'step':
      return <Ticks minutes={layer.starts} axis={axis} />
    case 'booking':
      return (
        <>
          <Mark kind="open" stretch={whole} axis={axis} />
          {ribbon.bookings.map((b) => (
            <BookingMarks key={b.id} booking={b} axis={axis} over={false} />
          ))}
        </>
      )
  }
  return (
    <>
      <Mark kind="open" stretch={whole} axis={axis} />
      {layer.causes.map((c) => (
        <Mark key={`${c.from} ${c.to} ${c.label}`} kind={kind} stretch={c} axis={axis} title={c.label ?? ''} />
      ))}
    </>
  )
}

interface CursorProps {
  minute: number
  open: boolean
  axis: Axis
  onAt: (minute: number) => void
}

/** A line through all layers, moved by pressing, dragging or arrow keys. */
function Cursor({ minute, open, axis, onAt }: CursorProps) {
  const ground = useRef<HTMLDivElement>(null)
  const to = (at: number) => onAt(Math.min(1435, Math.max(0, Math.round(at / grain) * grain)))
  const point = (event: PointerEvent) => {
    const bounds = ground.current?.getBoundingClientRect()
    if (bounds) to(minuteAt((event.clientX - bounds.left) / bounds.width, axis))
  }
  const press = (event: KeyboardEvent) => {
    const step = event.shiftKey ? 60 : grain
    const by = { ArrowRight: step, ArrowUp: step, ArrowLeft: -step, ArrowDown: -step }[event.key]
    if (!by) return
    event.preventDefault()
    to(minute + by)
  }
  return (
    <div
      ref={ground}
      role="slider"
      tabIndex={0}
      aria-label={say.types.timeExplain}
      aria-valuemin={0}
      aria-valuemax={1435}
      aria-valuenow={minute}
      aria-valuetext={minuteText(minute)}
      className="absolute top-[18px] right-0 bottom-0 left-[9.5rem] cursor-crosshair touch-none"
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId)
        point(event)
      }}
      onPointerMove={(event) => event.buttons === 1 && point(event)}
      onKeyDown={press}
    >
      <div className="absolute inset-y-0 w-px bg-ink" style={{ left: `${place(minute, axis) * 100}%` }}>
        <span
          className={`figures absolute top-0 -translate-x-1/2 rounded-(--radius) px-1 text-small font-semibold text-on-act ${open ? 'bg-act' : 'bg-need'}`}
        >
          {minuteText(minute)}
        </span>
      </div>
    </div>
  )
}

function startsLeft(count: number): string {
  if (count === 0) return say.types.nothingLeft
  return say.types.starts(count)
}
