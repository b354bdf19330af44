import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { Sheet } from '../../kit/Ask'
import { Button, Need, TextField } from '../../kit/kit'
import { clock, shortDate, wallClock } from '../../time/time'
import { useMe } from '../queries'

/** All bookings of somebody's days, handed over by each type's rule: shown as a plan first, done as one step. */
export function HandOver({ person, onDone }: { person: Schemas['Colleague']; onDone: () => void }) {
  const zone = useMe().data?.person?.zone ?? 'UTC'
  const today = wallClock(new Date(), person.zone).date
  const [days, setDays] = useState({ from: today, to: today })
  const client = useQueryClient()
  const body = { person: person.id, ...days }
  const plan = useQuery<Schemas['HandoverPlan'], Refusal>({
    queryKey: ['handover', body],
    queryFn: () => need(api.POST('/handover/plan', { body })),
    staleTime: 0,
  })
  const go = useMutation<Schemas['HandoverPlan'], Refusal, void>({
    mutationFn: () => need(api.POST('/handover', { body })),
    onSuccess: () => {
      for (const key of ['staff', 'board', 'today', 'history', 'handover', 'routing'])
        void client.invalidateQueries({ queryKey: [key] })
    },
  })
  const moves = plan.data?.moves ?? []
  const placed = moves.filter((m) => m.to)
  return (
    <Sheet open title={`Bookings of ${person.name}`} onClose={onDone}>
      <div className="mb-3 grid grid-cols-2 gap-3">
        <TextField
          label="From"
          type="date"
          value={days.from}
          onChange={(event) => setDays({ ...days, from: event.target.value })}
        />
        <TextField
          label="To, included"
          type="date"
          value={days.to}
          problem={plan.error?.fields.to}
          onChange={(event) => setDays({ ...days, to: event.target.value })}
        />
      </div>
      {(go.error ?? plan.error) && <Need className="mb-3">{(go.error ?? plan.error)?.message}</Need>}
      {go.data ? (
        <Done left={go.data.moves} zone={zone} />
      ) : (
        <>
          <Moves moves={moves} zone={zone} />
          {moves.length === 0 && plan.data && <p className="text-ink-2">No bookings in these days.</p>}
          {placed.length > 0 && (
            <p className="mt-3">
              <Button disabled={go.isPending} onClick={() => go.mutate()}>
                Hand over {placed.length} of {moves.length}
              </Button>
            </p>
          )}
        </>
      )}
    </Sheet>
  )
}

function Moves({ moves, zone }: { moves: Schemas['HandoverMove'][]; zone: string }) {
  return (
    <ul aria-label="Plan">
      {moves.map(({ booking, name, why }) => {
        const start = new Date(booking.start)
        return (
          <li key={booking.id} className="border-t border-rule py-1.5 text-note">
            <span className="figures">
              {shortDate(wallClock(start, zone).date)} {clock(start, zone)}
            </span>{' '}
            <b className="font-semibold">{booking.client}</b> {booking.type}
            <br />
            {name ? <span>to {name}. </span> : <span className="text-need">Nobody can take it. </span>}
            <span className="text-ink-2">{why}</span>
          </li>
        )
      })}
    </ul>
  )
}

function Done({ left, zone }: { left: Schemas['HandoverMove'][]; zone: string }) {
  return (
    <div role="status">
      <p className="mb-2">Done. Clients and colleagues are told by mail; “Undo last change” takes it all back.</p>
      {left.length > 0 && (
        <>
          <p className="font-semibold text-need">
            {left.length === 1 ? 'One could' : `${left.length} could`} not be placed and stay where they are:
          </p>
          <Moves moves={left} zone={zone} />
        </>
      )}
    </div>
  )
}
