import { useQuery } from '@tanstack/react-query'
import {
  createContext,
  type ReactNode,
  type RefObject,
  useCallback,
  useContext,
  useEffect,
  useMemo,
  useRef,
  useState,
} from 'react'
import { api, need, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import type { Axis } from '../../ribbon/geometry'
import { labelOf } from '../../ribbon/labels'
import { say, toldAll } from '../../say'
import { minuteText, shortDate } from '../../time/time'
import { useDebounced } from '../useDebounced'
import { Drop } from './Drop'
import { type Ground, type Held, measured, nextOpen, placeAt, steady, withinDay } from './places'

/** A booking that is carried over the board: where its meeting began, and where it is held now. */
export interface Load {
  booking: Schemas['Booked']
  from: { row: number; minute: number }
}

interface Carrying {
  /** Open starts by row, while a booking is carried. */
  places: ReadonlyMap<number, number[]>
  lift: (load: Load, at?: { x: number; y: number }) => void
}

const none: ReadonlyMap<number, number[]> = new Map()
const Context = createContext<Carrying>({ places: none, lift: () => {} })

export const useCarrying = () => useContext(Context)

/** Which days of whom the board shows, as the server is asked for them. */
export interface BoardDays {
  from: string
  days: number
  everybody?: boolean
  team?: number
  skip?: number
}

interface Props {
  rows: Schemas['BoardRow'][]
  axis: Axis
  view: BoardDays
  children: ReactNode
}

/** The board's rows, over which a booking can be carried by pointer or by keys. Rows are marked with data-row. */
export function Carry({ rows, axis, view, children }: Props) {
  const ground = useRef<HTMLDivElement>(null)
  const [load, setLoad] = useState<(Load & { at?: { x: number; y: number } }) | null>(null)
  const [dropped, setDropped] = useState<(Load & { to: Held }) | null>(null)
  const asked = useQuery({
    queryKey: keys.onBoard('places', load?.booking.id, view),
    queryFn: () =>
      need(api.GET('/host-bookings/{id}/targets', { params: { path: { id: load?.booking.id ?? 0 }, query: view } })),
    enabled: load !== null,
    staleTime: 0,
  })
  const places = useMemo(() => {
    if (!load || !asked.data) return none
    const open = new Map(asked.data.map((p) => [`${p.person} ${p.date}`, p.open]))
    return new Map(rows.map((row, i) => [i, open.get(`${row.id} ${row.ribbon.date}`) ?? []]))
  }, [asked.data, load, rows])
  const lift = useCallback((load: Load, at?: { x: number; y: number }) => setLoad(at ? { ...load, at } : load), [])
  const carrying = useMemo(() => ({ places, lift }), [places, lift])
  return (
    <Context value={carrying}>
      <div ref={ground} className="relative" data-carrying={load !== null || undefined}>
        {children}
        {load && (
          <Ghost
            everybody={view.everybody ?? false}
            load={load}
            rows={rows}
            axis={axis}
            places={places}
            ground={ground}
            onEnd={(to) => {
              setLoad(null)
              const { booking, from } = load
              if (to && (to.row !== from.row || to.minute !== from.minute)) setDropped({ booking, from, to })
            }}
          />
        )}
      </div>
      {asked.error && <p className="mt-2 text-need">{asked.error.message}</p>}
      {dropped && (
        <Drop
          booking={dropped.booking}
          row={rows[dropped.to.row]}
          from={rows[dropped.from.row]}
          minute={dropped.to.minute}
          before={dropped.from.minute}
          onDone={() => setDropped(null)}
        />
      )}
    </Context>
  )
}

interface GhostProps {
  everybody: boolean
  load: Load & { at?: { x: number; y: number } }
  rows: Schemas['BoardRow'][]
  axis: Axis
  places: ReadonlyMap<number, number[]>
  ground: RefObject<HTMLDivElement | null>
  onEnd: (to: Held | null) => void
}

/** The carried booking. It alone is drawn anew while it moves. */
function Ghost({ everybody, load, rows, axis, places, ground, onEnd }: GhostProps) {
  const { booking, from, at } = load
  const length = booking.to - booking.from
  const [grounds] = useState<Ground[]>(() => measured(ground.current))
  const [held, setHeld] = useState<Held>(from)
  const grip = at ? placeAt(at, grounds, axis, 0).minute - booking.from : 0
  const latest = useRef({ held, places, onEnd })
  latest.current = { held, places, onEnd }

  useEffect(() => {
    if (!at) return
    const move = (event: PointerEvent) => {
      const over = steady(placeAt({ x: event.clientX, y: event.clientY }, grounds, axis, grip), from)
      const kept = over.row !== from.row && over.minute === from.minute
      setHeld(kept ? over : nextOpen(over, latest.current.places.get(over.row), length))
    }
    const up = () => latest.current.onEnd(latest.current.held)
    const leave = () => latest.current.onEnd(null)
    addEventListener('pointermove', move)
    addEventListener('pointerup', up)
    addEventListener('pointercancel', leave)
    return () => {
      removeEventListener('pointermove', move)
      removeEventListener('pointerup', up)
      removeEventListener('pointercancel', leave)
    }
  }, [at, from, grounds, axis, grip, length])

  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const { held, places, onEnd } = latest.current
      const [row, minute] = [held.row, held.minute]
      const sideways = { ArrowLeft: -1, ArrowRight: 1 }[event.key]
      const upright = { ArrowUp: -1, ArrowDown: 1 }[event.key]
      if (event.key === 'Escape') onEnd(null)
      else if (event.key === 'Enter' && !at) onEnd(held)
      else if (sideways && !at)
        setHeld({ row, minute: stepped(minute, sideways, event.shiftKey ? [] : places.get(row), length) })
      else if (upright && !at) setHeld({ row: Math.min(rows.length - 1, Math.max(0, row + upright)), minute })
      else return
      event.preventDefault()
      event.stopPropagation()
    }
    addEventListener('keydown', press, true)
    return () => removeEventListener('keydown', press, true)
  }, [at, rows, length])

  const place = grounds[held.row]
  const row = rows[held.row]
  if (!place || !row) return null
  const share = (minute: number) => (minute - axis.from) / (axis.to - axis.from)
  const open = places.get(held.row)?.includes(held.minute) ?? false
  return (
    <>
      <div
        className={`carried ${open ? 'carried-open' : ''}`}
        style={{
          transform: `translate(${place.left + share(held.minute) * place.width}px, ${place.top}px)`,
          width: (length / (axis.to - axis.from)) * place.width,
          height: place.height,
        }}
      >
        {labelOf(booking)}
      </div>
      <p className="mt-2 text-note" role="status">
        <b className="figures">
          {everybody ? `${row.person}, ` : ''}
          {shortDate(row.ribbon.date)} {minuteText(held.minute)}
        </b>{' '}
        {open ? say.board.open : <WhyNot booking={booking.id} row={row} minute={held.minute} />}{' '}
        {!at && <span className="text-ink-2">{say.board.arrowsCarryEnterPuts}</span>}
      </p>
    </>
  )
}

/** One step along a row: to the next open place, or five minutes where none is asked for. */
function stepped(minute: number, direction: number, open: number[] | undefined, length: number): number {
  const ahead = (open ?? []).filter((m) => (m - minute) * direction > 0)
  if (ahead.length > 0) return direction > 0 ? Math.min(...ahead) : Math.max(...ahead)
  return withinDay(minute + 5 * direction, length)
}

/** Why a place isn't open, asked for where the booking rests. */
function WhyNot({ booking, row, minute }: { booking: number; row: Schemas['BoardRow']; minute: number }) {
  const place = useDebounced(JSON.stringify({ person: row.id, date: row.ribbon.date, minute }), 150)
  const says = useQuery({
    queryKey: keys.onBoard('place', booking, place),
    queryFn: () =>
      need(
        api.POST('/host-bookings/{id}/targets/check', { params: { path: { id: booking } }, body: JSON.parse(place) }),
      ),
  })
  if (says.error) return <span className="text-need">{says.error.message}</span>
  return <span className="text-need">{says.data ? toldAll(says.data.why) || say.board.open : say.board.isntOpen}</span>
}
