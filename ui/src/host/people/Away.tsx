import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { hasChanged, keys } from '../../api/keys'
import { Sheet } from '../../kit/Ask'
import { DateField } from '../../kit/DateField'
import { Button, Need, TextField } from '../../kit/kit'
import { say, told } from '../../say'
import { clock, shortDate, wallClock } from '../../time/time'
import { useMe, useStaff } from '../queries'

type Rest = Schemas['AwayRest']

interface Props {
  person: Pick<Schemas['Person'], 'id' | 'name' | 'zone'>
  /** The days to begin with; today if left out. */
  days?: { from: string; to: string } | undefined
  onDone: () => void
}

/** Somebody is away: their days are closed, their bookings go over by each type's rule, and for each of the rest one decides. All of it
 *  is shown first and done as one action. */
export function Away({ person, days: first, onDone }: Props) {
  const me = useMe().data?.person
  const zone = me?.zone ?? 'UTC'
  const today = wallClock(new Date(), person.zone).date
  const [days, setDays] = useState(first ?? { from: today, to: today })
  const [closes, setCloses] = useState(true)
  const [label, setLabel] = useState('')
  const [rest, setRest] = useState<Record<number, Rest>>({})
  const client = useQueryClient()
  const span = { person: person.id, ...days }
  const plan = useQuery<Schemas['HandoverPlan'], Refusal>({
    queryKey: keys.tried.handover(span),
    queryFn: () => need(api.POST('/handover/plan', { body: span })),
    staleTime: 0,
  })
  const go = useMutation<Schemas['HandoverPlan'], Refusal, void>({
    mutationFn: () => need(api.POST('/away', { body: { ...span, label, open: !closes, rest: Object.values(rest) } })),
    onSuccess: () => void hasChanged(client, 'away'),
  })
  const moves = plan.data?.moves ?? []
  const own = person.id === me?.id
  return (
    <Sheet open wide title={own ? say.people.youAway : say.people.isAway(person.name)} onClose={onDone}>
      {go.data ? (
        <Done left={go.data.moves} zone={zone} closed={closes} />
      ) : (
        <>
          <div className="mb-3 grid grid-cols-3 gap-3">
            <DateField label={say.people.from} value={days.from} onChange={(from) => setDays({ ...days, from })} />
            <DateField
              label={say.people.included}
              value={days.to}
              problem={plan.error?.fields.to}
              onChange={(to) => setDays({ ...days, to })}
            />
            <TextField
              label={say.people.reasonColleagues}
              placeholder={say.people.optional}
              value={label}
              onChange={(event) => setLabel(event.target.value)}
            />
          </div>
          <label className="mb-3 flex items-baseline gap-2 text-note">
            <input
              type="checkbox"
              className="accent-act"
              checked={closes}
              onChange={(event) => setCloses(event.target.checked)}
            />
            {say.people.takeTheseDaysOff}
          </label>
          {(go.error ?? plan.error) && <Need className="mb-3">{(go.error ?? plan.error)?.message}</Need>}
          <ul aria-label={say.people.plan}>
            {moves.map((move) => (
              <Move key={move.booking.id} move={move} zone={zone}>
                {!move.to && (
                  <Decide
                    booking={move.booking}
                    away={person.id}
                    rest={rest[move.booking.id]}
                    onDecide={(decided) => setRest({ ...rest, [move.booking.id]: decided })}
                  />
                )}
              </Move>
            ))}
          </ul>
          {moves.length === 0 && plan.data && <p className="text-ink-2">{say.people.noBookingsTheseDays}</p>}
          {plan.data && (moves.length > 0 || closes) && (
            <p className="mt-4">
              <Button disabled={go.isPending} onClick={() => go.mutate()}>
                {says(closes, moves, rest)}
              </Button>
            </p>
          )}
        </>
      )}
    </Sheet>
  )
}

/** What the button does: "Take the days off, hand over 2, ask 1 client". */
function says(closes: boolean, moves: Schemas['HandoverMove'][], rest: Record<number, Rest>): string {
  const left = moves.filter(({ to }) => !to).map(({ booking }) => rest[booking.id]?.do)
  const count = (what: Rest['do']) => left.filter((one) => one === what).length
  const given = moves.filter(({ to }) => to).length + count('give')
  const parts = [
    closes && say.people.takeDaysOff,
    given > 0 && say.people.handOver(given),
    count('ask') > 0 && say.people.askChooseAgain(count('ask')),
    count('cancel') > 0 && say.people.cancelSome(count('cancel')),
  ].filter((part) => part !== false)
  const words = parts.length > 0 ? parts.join(', ') : say.people.leaveEverything
  return `${words[0]?.toUpperCase()}${words.slice(1)}`
}

function Move({ move, zone, children }: { move: Schemas['HandoverMove']; zone: string; children?: React.ReactNode }) {
  const { booking, name, why } = move
  const start = new Date(booking.start)
  return (
    <li className="border-t border-rule py-2 text-note">
      <span className="figures">
        {shortDate(wallClock(start, zone).date)} {clock(start, zone)}
      </span>{' '}
      <b className="font-semibold">{booking.client}</b> {booking.type}
      <br />
      {name ? <span>{say.people.goesTo(name)}</span> : <span className="text-need">{say.people.noEligibleHost} </span>}
      <span className="text-ink-2">{told(why)}</span>
      {children}
    </li>
  )
}

/** What happens to a booking that the rules place with nobody. */
function Decide(props: {
  booking: Schemas['HostBooking']
  away: number
  rest: Rest | undefined
  onDecide: (rest: Rest) => void
}) {
  const { booking, away, onDecide } = props
  const rest = props.rest ?? { booking: booking.id, do: 'leave' as const }
  const people = useStaff().data?.people.filter((p) => p.bookable && p.id !== away) ?? []
  return (
    <div className="mt-1 flex flex-wrap items-baseline gap-x-3 gap-y-1">
      <select
        aria-label={say.people.whatHappensMeeting(booking.client)}
        className="border-0 border-b border-rule-strong bg-sheet py-0.5"
        value={rest.do}
        onChange={(event) => onDecide({ ...rest, do: event.target.value as Rest['do'] })}
      >
        <option value="leave">{say.people.keepAsIs}</option>
        <option value="ask">{say.people.askChooseAnotherTime(booking.client)}</option>
        <option value="cancel">{say.people.cancel}</option>
        {people.length > 0 && <option value="give">{say.people.handOverAnyway}</option>}
      </select>
      {rest.do === 'give' && (
        <select
          aria-label={say.people.whoTakes}
          className="border-0 border-b border-rule-strong bg-sheet py-0.5"
          value={rest.to ?? ''}
          onChange={(event) => onDecide({ ...rest, to: Number(event.target.value) })}
        >
          <option value="">{say.people.toSomebody}</option>
          {people.map(({ id, name }) => (
            <option key={id} value={id}>
              {say.people.toPerson(name)}
            </option>
          ))}
        </select>
      )}
      {(rest.do === 'ask' || rest.do === 'cancel') && (
        <input
          aria-label={say.people.message(booking.client)}
          placeholder={say.people.messageThemOptional}
          className="min-w-52 flex-1 border-0 border-b border-rule-strong bg-sheet py-0.5"
          value={rest.word ?? ''}
          onChange={(event) => onDecide({ ...rest, word: event.target.value })}
        />
      )}
    </div>
  )
}

function Done({ left, zone, closed }: { left: Schemas['HandoverMove'][]; zone: string; closed: boolean }) {
  return (
    <div role="status">
      <p className="mb-2">{say.people.doneClientsColleaguesTold(closed)}</p>
      {left.length > 0 && (
        <>
          <p className="font-semibold text-need">{say.people.bookingsStayTheyWere(left.length)}</p>
          <ul>
            {left.map((move) => (
              <Move key={move.booking.id} move={move} zone={zone} />
            ))}
          </ul>
        </>
      )}
    </div>
  )
}
