import { type PointerEvent, type ReactNode, useRef, useState } from 'react'
import { minuteText } from '../time/time'
import { snap } from './editing'
import { type Axis, box, minuteAt } from './geometry'

interface Props {
  axis: Axis
  onDraw: (stretch: { from: number; to: number }) => void
  children: ReactNode
}

/** A ribbon that a stretch can be drawn over by pointer. The same is done by keys with the buttons beside it. */
export function DrawOver({ axis, onDraw, children }: Props) {
  const ground = useRef<HTMLDivElement>(null)
  const [drag, setDrag] = useState<{ at: number; minute: number } | null>(null)
  const minuteOf = (event: PointerEvent) => {
    const bounds = ground.current?.getBoundingClientRect()
    return bounds ? minuteAt((event.clientX - bounds.left) / bounds.width, axis) : axis.from
  }
  const drawn = drag && { from: snap(Math.min(drag.at, drag.minute)), to: snap(Math.max(drag.at, drag.minute)) }
  const where = drawn && box(drawn, axis)
  const end = () => {
    setDrag(null)
    if (drawn && drawn.to > drawn.from) onDraw(drawn)
  }
  return (
    <div
      ref={ground}
      className="relative cursor-crosshair touch-pan-y"
      onPointerDown={(event) => {
        if (event.button !== 0 || (event.target as HTMLElement).closest('button')) return
        event.currentTarget.setPointerCapture(event.pointerId)
        const at = minuteOf(event)
        setDrag({ at, minute: at })
      }}
      onPointerMove={(event) => drag && setDrag({ ...drag, minute: minuteOf(event) })}
      onPointerUp={end}
      onPointerCancel={() => setDrag(null)}
    >
      {children}
      {where && drawn && (
        <div className="mark bg-act-soft outline outline-act" style={where}>
          <span className="grip-time figures left-full">
            {minuteText(drawn.from)}–{minuteText(drawn.to)}
          </span>
        </div>
      )}
    </div>
  )
}
