import { type KeyboardEvent, type PointerEvent, type ReactNode, useRef } from 'react'
import { say } from '../say'

interface Props<T> {
  items: T[]
  keyOf: (item: T) => string
  /** What an item is called, for its handle. */
  nameOf: (item: T) => string
  onOrder: (items: T[]) => void
  label: string
  className?: string
  children: (item: T, index: number) => ReactNode
}

/** A list whose items are put into order by dragging their handles, or by the arrow keys on them. */
export function Sortable<T>({ items, keyOf, nameOf, onOrder, label, className = '', children }: Props<T>) {
  const list = useRef<HTMLUListElement>(null)
  const put = (from: number, to: number) => {
    if (to < 0 || to >= items.length || to === from) return
    const next = [...items]
    next.splice(to, 0, ...next.splice(from, 1))
    onOrder(next)
  }
  const press = (from: number) => (event: KeyboardEvent) => {
    const by = { ArrowUp: -1, ArrowDown: 1 }[event.key]
    if (!by) return
    event.preventDefault()
    put(from, from + by)
  }
  const drag = (from: number) => (event: PointerEvent) => {
    if (!event.currentTarget.hasPointerCapture(event.pointerId)) return
    const rows = [...(list.current?.children ?? [])]
    const over = rows.findIndex((row) => {
      const box = row.getBoundingClientRect()
      return event.clientY >= box.top && event.clientY < box.bottom
    })
    if (over >= 0) put(from, over)
  }
  return (
    <ul ref={list} aria-label={label} className={className}>
      {items.map((item, i) => (
        <li key={keyOf(item)} className="flex gap-2">
          <button
            type="button"
            aria-label={say.kit.move(nameOf(item))}
            title={say.kit.dragArrowKeys}
            className="h-fit cursor-grab touch-none px-0.5 pt-3 leading-[3px] text-ink-3 active:cursor-grabbing"
            onKeyDown={press(i)}
            onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
            onPointerMove={drag(i)}
          >
            <svg viewBox="0 0 10 12" width="10" height="12" aria-hidden="true">
              <path d="M0 2h10M0 6h10M0 10h10" stroke="currentColor" strokeWidth="1.5" />
            </svg>
          </button>
          <div className="min-w-0 flex-1">{children(item, i)}</div>
        </li>
      ))}
    </ul>
  )
}
