import { api, need, type Schemas } from '../../api/client'
import { Sheet } from '../../kit/Ask'
import { Button, Need } from '../../kit/kit'
import { labelOf } from '../../ribbon/labels'
import { say } from '../../say'
import { longDate, minuteText } from '../../time/time'
import { useBoardChange } from './change'

interface Props {
  booking: Schemas['Booked']
  from: Schemas['BoardRow'] | undefined
  row: Schemas['BoardRow'] | undefined
  minute: number
  /** When it begins as it stands. */
  before: number
  onDone: () => void
}

/** A booking was put down somewhere: asked once more, since its client is told at once. */
export function Drop({ booking, from, row, minute, before, onDone }: Props) {
  const move = useBoardChange((outside: boolean) =>
    need(
      api.POST('/host-bookings/{id}/move', {
        params: { path: { id: booking.id } },
        body: { person: row?.id ?? 0, date: row?.ribbon.date ?? '', minute, outside, version: booking.version },
      }),
    ),
  )
  if (!row) return null
  const warned = move.error?.kind === 'urn:corrim:problem:outside-rules'
  const handed = row.id !== from?.id
  const moved = minute !== before
  const does = !handed
    ? say.board.moveToTime(minuteText(minute))
    : moved
      ? say.board.handOverToAt(row.person, minuteText(minute))
      : say.board.handOverTo(row.person)
  return (
    <Sheet open title={labelOf(booking)} onClose={onDone}>
      <p className="figures mb-3">
        {longDate(row.ribbon.date)}, {minuteText(minute)}–{minuteText(minute + booking.to - booking.from)}
        {handed && say.board.instead(row.person, from?.person ?? '')}
        {handed && moved && say.board.insteadOfTime(minuteText(before))}
      </p>
      <p className="mb-3 text-note text-ink-2">{say.board.clientToldMailKeeps}</p>
      {move.error && <Need className="mb-3">{move.error.fields.date ?? move.error.message}</Need>}
      <p>
        <Button disabled={move.isPending} onClick={() => move.mutate(warned, { onSuccess: onDone })}>
          {warned ? say.board.anyway(does) : does}
        </Button>
      </p>
    </Sheet>
  )
}
