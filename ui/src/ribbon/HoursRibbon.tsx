import { type KeyboardEvent, type PointerEvent, useRef, useState } from 'react'
import { say } from '../say'
import { minuteText } from '../time/time'
import { dragged, type Grip, type Interval, keyed, split, tidy } from './editing'
import { type Axis, box, minuteAt, place } from './geometry'

interface Props {
  name: string
  intervals: Interval[]
  axis: Axis
  onChange: (intervals: Interval[]) => void
}

/** A day's open hours to be drawn, moved, stretched and taken away, by pointer or keys. */
export function HoursRibbon({ name, intervals, axis, onChange }: Props) {
  const ground = useRef<HTMLDivElement>(null)
  const [drag, setDrag] = useState<{ grip: Grip; minute: number } | null>(null)
  const shown = drag ? dragged(intervals, drag.grip, drag.minute) : intervals
  const held = heldBy(drag?.grip, shown)

  const minuteOf = (event: { clientX: number }) => {
    const bounds = ground.current?.getBoundingClientRect()
    return bounds ? minuteAt((event.clientX - bounds.left) / bounds.width, axis) : axis.from
  }
  const begin = (event: PointerEvent, grip: (at: number) => Grip) => {
    if (event.button !== 0) return
    event.stopPropagation()
    ground.current?.setPointerCapture(event.pointerId)
    const at = minuteOf(event)
    setDrag({ grip: event.shiftKey ? { kind: 'cut', at } : grip(at), minute: at })
  }
  const end = () => {
    if (!drag) return
    setDrag(null)
    if (drag.minute !== drag.grip.at) onChange(tidy(shown))
  }
  const press = (event: KeyboardEvent, index: number) => {
    const next = keyed(intervals, index, event.key, { shift: event.shiftKey, alt: event.altKey })
    if (!next) return
    event.preventDefault()
    onChange(tidy(next))
  }

  return (
    // biome-ignore lint/a11y/useSemanticElements: a fieldset can't be a positioned ribbon
    <div
      ref={ground}
      role="group"
      aria-label={say.ribbon.openHoursDragDraw(name)}
      className="ribbon ribbon-editable"
      style={{ '--hours': (axis.to - axis.from) / 60 } as React.CSSProperties}
      onPointerDown={(event) => begin(event, (at) => ({ kind: 'draw', at }))}
      onPointerMove={(event) => drag && setDrag({ ...drag, minute: minuteOf(event) })}
      onPointerUp={end}
      onPointerCancel={() => setDrag(null)}
    >
      {shown.map((interval, index) => {
        const where = box({ from: interval.start, to: interval.end }, axis)
        return (
          where && (
            <button
              type="button"
              // biome-ignore lint/suspicious/noArrayIndexKey: an interval is known by its place while it is dragged
              key={index}
              className={`mark grip ${index === held ? 'held' : ''}`}
              style={where}
              aria-label={say.ribbon.arrowKeysMoveShift(
                name,
                minuteText(interval.start),
                minuteText(interval.end % 1440 || 1440),
              )}
              onPointerDown={(event) => begin(event, (at) => ({ kind: 'move', index, at }))}
              onKeyDown={(event) => press(event, index)}
              onDoubleClick={(event) => onChange(tidy(split(intervals, index, minuteOf(event))))}
            >
              <span
                className="grip-end left-0"
                onPointerDown={(event) => begin(event, (at) => ({ kind: 'start', index, at }))}
              />
              <span
                className="grip-end right-0"
                onPointerDown={(event) => begin(event, (at) => ({ kind: 'end', index, at }))}
              />
            </button>
          )
        )
      })}
      <HeldTime interval={shown[held]} axis={axis} />
      <div className="ribbon-hours" />
    </div>
  )
}

/** Which interval is held; what is drawn is the last one. */
function heldBy(grip: Grip | undefined, shown: Interval[]): number {
  if (!grip) return -1
  if ('index' in grip) return grip.index
  return grip.kind === 'draw' ? shown.length - 1 : -1
}

/** The times of what is being dragged, beside it. */
function HeldTime({ interval, axis }: { interval: Interval | undefined; axis: Axis }) {
  if (!interval) return null
  return (
    <span className="grip-time figures" style={{ left: `${place(interval.end, axis) * 100}%` }}>
      {minuteText(interval.start)}–{minuteText(interval.end)}
    </span>
  )
}
