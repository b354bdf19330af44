import { useState } from 'react'
import { api, need, type Schemas } from '../../api/client'
import { Sheet } from '../../kit/Ask'
import { Button } from '../../kit/kit'
import { DayRibbon } from '../../ribbon/DayRibbon'
import { DrawOver } from '../../ribbon/DrawOver'
import { type Axis, box } from '../../ribbon/geometry'
import { lanesOf } from '../../ribbon/names'
import { Ticks } from '../../ribbon/Ribbon'
import { say } from '../../say'
import { clock, longDate, minuteText } from '../../time/time'
import { BookingMark } from './BookingMark'
import { useCarrying } from './Carry'
import { useBoardChange } from './change'

interface Props {
  row: Schemas['BoardRow']
  /** Its place among the rows. */
  index: number
  axis: Axis
  name: string
  now: number | undefined
  /** Drawing on it, if it is one's own. */
  onDraw: ((stretch: { from: number; to: number }) => void) | undefined
  /** What is done if whose day it is is away. */
  onAway?: (() => void) | undefined
  /** One of its bookings is to be seen whole. */
  onOpen: (booking: number) => void
}

/** One day of one person. */
export function BoardRow({ row, index, axis, name, now, onDraw, onAway, onOpen }: Props) {
  const { ribbon, blocks } = row
  const places = useCarrying().places.get(index)
  const lanes = lanesOf(ribbon.bookings)
  const ribbonOf = (
    <DayRibbon day={ribbon} axis={axis} name={name} {...(now === undefined ? {} : { now })}>
      {blocks.map((block) => (
        <BlockMark key={`${block.from} ${block.id}`} block={block} date={ribbon.date} axis={axis} />
      ))}
      {row.handles &&
        ribbon.bookings.map((booking, i) => (
          <BookingMark
            key={booking.id}
            booking={booking}
            row={index}
            axis={axis}
            lane={lanes[i] ?? { lane: 0, lanes: 1 }}
            onOpen={onOpen}
          />
        ))}
      {places && <Ticks minutes={places} axis={axis} kind="tick-place" />}
    </DayRibbon>
  )
  return (
    <>
      <span className="pb-2 leading-tight">
        {name}
        <span className="block text-small text-ink-3">
          {!row.own && say.board.there(clock(new Date(), row.zone))}
          {onAway && (
            <button type="button" className="link" aria-label={say.board.isAway(row.person)} onClick={onAway}>
              {say.board.away}
            </button>
          )}
        </span>
      </span>
      <div className="relative mb-1.5 [&_.ribbon]:h-(--row)" data-row={index}>
        {onDraw ? (
          <DrawOver axis={axis} onDraw={onDraw}>
            {ribbonOf}
          </DrawOver>
        ) : (
          ribbonOf
        )}
      </div>
    </>
  )
}

/** Time blocked here; pressing it offers to give it free. A colleague's has no way in. */
function BlockMark({ block, date, axis }: { block: Schemas['Block']; date: string; axis: Axis }) {
  const [open, setOpen] = useState(false)
  const remove = useBoardChange((id: number) => need(api.DELETE('/blocks/{id}', { params: { path: { id } } })))
  const where = box(block, axis)
  if (!where) return null
  const times = `${minuteText(block.from)}–${minuteText(block.to)}`
  const { id } = block
  if (!id) return <div className="mark mark-blocked" style={where} title={say.board.blockedTitle(times)} />
  return (
    <>
      <button
        type="button"
        className="mark mark-blocked"
        style={where}
        aria-label={say.board.blockedAt(times, block.label ?? '')}
        title={`${times} ${block.label ?? ''}`}
        onClick={() => setOpen(true)}
      />
      <Sheet open={open} title={block.label || say.board.blocked} onClose={() => setOpen(false)}>
        <p className="figures mb-3 text-ink-2">
          {longDate(date)}, {times}
        </p>
        <Button onClick={() => remove.mutate(id, { onSuccess: () => setOpen(false) })}>{say.board.giveTimeFree}</Button>
        {remove.error && <p className="mt-2 text-need">{remove.error.message}</p>}
      </Sheet>
    </>
  )
}
