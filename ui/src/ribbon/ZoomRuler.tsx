import { type KeyboardEvent, type PointerEvent, useRef, useState } from 'react'
import { say } from '../say'
import { minuteText } from '../time/time'
import { type Axis, minuteAt, zoomed } from './geometry'
import { Ruler } from './Ribbon'

/** An axis that starts as the given one and can be zoomed; null goes back. */
export function useZoom(own: Axis): [axis: Axis, zoom: (axis: Axis | null) => void] {
  const [chosen, setChosen] = useState<Axis | null>(null)
  return [chosen ?? own, setChosen]
}

/** So many pixels of a drag make the axis an hour longer or shorter. */
const hourOfDrag = 24

/** A ruler to zoom its ribbons by: dragged to the right it shows less and larger, to the left more. */
export function ZoomRuler({ axis, onZoom }: { axis: Axis; onZoom: (axis: Axis | null) => void }) {
  const ground = useRef<HTMLDivElement>(null)
  const held = useRef<{ x: number; axis: Axis; around: number } | null>(null)
  const around = (event: PointerEvent) => {
    const bounds = ground.current?.getBoundingClientRect()
    return bounds ? minuteAt((event.clientX - bounds.left) / bounds.width, axis) : axis.from
  }
  const press = (event: KeyboardEvent) => {
    const hours = { '+': -2, '=': -2, '-': 2 }[event.key]
    if (event.key === '0') onZoom(null)
    else if (hours) onZoom(zoomed(axis, hours, (axis.from + axis.to) / 2))
    else return
    event.preventDefault()
  }
  return (
    <div
      ref={ground}
      role="slider"
      tabIndex={0}
      aria-label={say.ribbon.zoomShowsLessLarger}
      aria-valuemin={4}
      aria-valuemax={24}
      aria-valuenow={(axis.to - axis.from) / 60}
      aria-valuetext={say.ribbon.to(minuteText(axis.from), minuteText(axis.to))}
      title={say.ribbon.dragZoomPressTwice}
      className="ruler-zoom"
      onKeyDown={press}
      onDoubleClick={() => onZoom(null)}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId)
        held.current = { x: event.clientX, axis, around: around(event) }
      }}
      onPointerMove={(event) => {
        const grip = held.current
        if (!grip || event.buttons !== 1) return
        const hours = Math.round((grip.x - event.clientX) / hourOfDrag)
        if (hours !== 0) onZoom(zoomed(grip.axis, hours, grip.around))
      }}
      onPointerUp={() => {
        held.current = null
      }}
    >
      <Ruler axis={axis} every={axis.to - axis.from > 15 * 60 ? 120 : 60} />
    </div>
  )
}
