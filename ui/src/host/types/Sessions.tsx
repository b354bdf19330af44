import { useQuery } from '@tanstack/react-query'
import { type FormEvent, type RefObject, useRef, useState } from 'react'
import { Link, useParams } from 'react-router'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { Button, lineLook, SelectField, TextField, whole } from '../../kit/kit'
import { Unfold } from '../../kit/Unfold'
import { SeatMarks } from '../../ribbon/SeatMarks'
import { say, told, toldAll } from '../../say'
import { clockRange, shortDate, shortDateInYear, wallClock } from '../../time/time'
import { useBoardChange } from '../board/change'
import { OwnDetails } from '../bookingpage/OwnDetails'
import { useMe, useStaff, useType } from '../queries'
import { Unread } from '../Shell'
import { useDebounced } from '../useDebounced'
import { DrawSessions } from './DrawSessions'
import { TypeFrame } from './TypeFrame'

type Type = Schemas['MeetingType']
type Session = Schemas['GroupSession']
type Series = Schemas['GroupSeries']

/** The sentence as it is typed, and the series that its dates are added to. */
interface Draft {
  text: string
  addTo?: Series | undefined
}

/** A type's sessions: set by a sentence, with what stands in the way first, and the list of those that stand. */
export function Sessions() {
  const type = useType(Number(useParams().id))
  const [draft, setDraft] = useState<Draft>({ text: '' })
  const line = useRef<HTMLInputElement>(null)
  const begin = (next: Draft) => {
    setDraft(next)
    line.current?.focus()
  }
  if (!type.data) return <Unread error={type.error} />
  return (
    <TypeFrame type={type.data} part={say.types.sessions} bar={null} changed={false} aside={null} asideWidth="0">
      {type.data.rules.sessions ? (
        <NewSessions type={type.data} draft={draft} onDraft={setDraft} line={line} />
      ) : (
        <NoSessions type={type.data} />
      )}
      <Standing type={type.data} />
      {type.data.rules.sessions && <SetTogether type={type.data} onBegin={begin} />}
    </TypeFrame>
  )
}

function NoSessions({ type }: { type: Type }) {
  return (
    <p className="max-w-3xl text-ink-2">
      {say.types.notOnDates} <Link to={`/types/${type.id}?rule=seats`}>{say.types.changeThat}</Link>
    </p>
  )
}

interface NewProps {
  type: Type
  draft: Draft
  onDraft: (draft: Draft) => void
  line: RefObject<HTMLInputElement | null>
}

/** When they are, as a sentence; each date is looked at before any is set. */
function NewSessions({ type, draft, onDraft, line }: NewProps) {
  const { text, addTo } = draft
  const day = useDay()
  const [host, setHost] = useState(0)
  const usual = type.rules.seats ?? 0
  const [seats, setSeats] = useState(String(usual))
  const [own, setOwn] = useState<Schemas['SessionDetails']>({})
  const body = {
    ...own,
    type: type.id,
    text,
    host,
    series: addTo?.id ?? 0,
    seats: whole(seats) === usual ? 0 : whole(seats),
  }
  const set = useBoardChange((outside: boolean) => need(api.POST('/group-sessions', { body: { ...body, outside } })))
  const asked = useDebounced(JSON.stringify(body), 250)
  const still = asked === JSON.stringify(body)
  const checked = useQuery<Schemas['HandTime'][], Refusal>({
    queryKey: keys.onBoard('sessions', asked),
    queryFn: () => need(api.POST('/group-sessions/check', { body: JSON.parse(asked) })),
    enabled: text !== '' && still,
  })
  // While more is being typed, the last reading would be of something else.
  const reading = still ? checked : undefined
  const times = text === '' ? [] : (reading?.data ?? [])
  const problem = text === '' ? undefined : problemOf(set.error) || problemOf(reading?.error)
  const wrong = { ...reading?.error?.fields, ...set.error?.fields }
  const inTheWay = times.some((time) => !time.open)
  const submit = (event: FormEvent) => {
    event.preventDefault()
    set.mutate(inTheWay, {
      onSuccess: () => {
        onDraft({ text: '' })
        setOwn({})
      },
    })
  }
  return (
    <form onSubmit={submit} noValidate className="max-w-3xl" aria-label={say.types.newSessions}>
      <label htmlFor="sessions-when" className="text-note text-ink-2">
        {say.types.whenSessionsAre}
      </label>
      <div className="flex flex-wrap items-end gap-3">
        <input
          id="sessions-when"
          ref={line}
          aria-describedby="sessions-note"
          aria-invalid={problem ? true : undefined}
          className={`${lineLook(problem)} min-w-60 flex-1`}
          placeholder={say.types.exampleSessions}
          maxLength={1000}
          value={text}
          onChange={(event) => {
            set.reset()
            onDraft({ ...draft, text: event.target.value })
          }}
        />
        <TextField
          label={say.board.seats}
          type="number"
          min={2}
          max={1000}
          value={seats}
          onChange={(event) => setSeats(event.target.value)}
        />
        <Host type={type} host={host} onChange={setHost} />
      </div>
      <p
        id="sessions-note"
        aria-live="polite"
        className={`mt-1 min-h-5 text-note ${problem ? 'text-need' : 'text-ink-2'}`}
      >
        {problem ?? say.types.sessionsHint}
      </p>
      <DrawSessions
        type={type}
        host={host}
        text={text}
        read={times}
        onText={(said) => {
          set.reset()
          onDraft({ ...draft, text: said })
        }}
      />
      <Unfold words={say.types.ownDetails} wrong={Boolean(wrong.about || wrong.way)}>
        <OwnDetails details={own} wrong={wrong} onChange={setOwn} />
      </Unfold>
      {addTo && (
        <p className="mt-1 text-note">
          {say.types.addedTo(day(addTo.first))}{' '}
          <Button kind="text" onClick={() => onDraft({ text })}>
            {say.types.notAdded}
          </Button>
        </p>
      )}
      {times.length > 0 && <Dates times={times} />}
      <p className="mt-3">
        <Button type="submit" disabled={times.length === 0 || set.isPending}>
          {inTheWay ? say.types.setAnyway(times.length) : say.types.setSessions(times.length)}
        </Button>
      </p>
    </form>
  )
}

function problemOf(error: Refusal | null | undefined): string | undefined {
  if (!error) return undefined
  const { text, date, host, seats, about, way } = error.fields
  if (about || way) return undefined // told beside these
  return text ?? date ?? host ?? seats ?? error.message
}

/** The dates as they were understood, with what stands in the way of each. */
function Dates({ times }: { times: Schemas['HandTime'][] }) {
  return (
    <ul aria-label={say.types.datesRead} className="mt-2 columns-1 gap-x-10 border-y border-rule py-1.5 sm:columns-2">
      {times.map((time) => (
        <li key={time.date + time.clock} className="break-inside-avoid">
          <span className="figures">
            {shortDate(time.date)} {time.clock}
          </span>{' '}
          {!time.open && <span className="text-note text-need">{toldAll(time.why)}</span>}
        </li>
      ))}
    </ul>
  )
}

/** Writes the date of an instant on the viewer's clock. */
function useDay(): (at: string) => string {
  const zone = useMe().data?.person?.zone ?? 'UTC'
  const today = wallClock(new Date(), zone).date
  return (at) => shortDateInYear(wallClock(new Date(at), zone).date, today)
}

/** Who is to host them, where there is a choice. */
function Host({ type, host, onChange }: { type: Type; host: number; onChange: (host: number) => void }) {
  const me = useMe().data?.person
  const people = useStaff().data?.people ?? []
  const looksAfter = me?.role === 'owner' || me?.role === 'coordinator'
  const hosts = type.hosts.filter((id) => looksAfter || id === me?.id)
  if (type.hosts.length < 2) return null
  return (
    <SelectField label={say.board.host} value={host} onChange={(event) => onChange(Number(event.target.value))}>
      <option value={0}>{say.board.whoeverRuleGives}</option>
      {hosts.map((id) => (
        <option key={id} value={id}>
          {people.find((p) => p.id === id)?.name ?? me?.name}
        </option>
      ))}
    </SelectField>
  )
}

/** Those that are not over yet, with their seats; pressed, one opens on the board. */
function Standing({ type }: { type: Type }) {
  const zone = useMe().data?.person?.zone ?? 'UTC'
  const sessions = useQuery<Session[], Refusal>({
    queryKey: keys.onBoard('sessions', type.id),
    queryFn: () => need(api.GET('/types/{id}/group-sessions', { params: { path: { id: type.id } } })),
  })
  if (!sessions.data) return null
  const today = wallClock(new Date(), zone).date
  return (
    <section aria-labelledby="standing-head" className="mt-7 max-w-3xl">
      <h2 id="standing-head">{say.types.comingSessions}</h2>
      {sessions.data.length === 0 && <p className="mt-1 text-ink-2">{say.types.noneSet}</p>}
      <ul className="mt-1">
        {sessions.data.map((session) => (
          <One key={session.id} session={session} zone={zone} today={today} />
        ))}
      </ul>
    </section>
  )
}

/** What was set by one sentence, to be set once more for a new term, or to be added to. */
function SetTogether({ type, onBegin }: { type: Type; onBegin: (draft: Draft) => void }) {
  const series = useQuery<Series[], Refusal>({
    queryKey: keys.onBoard('series', type.id),
    queryFn: () => need(api.GET('/types/{id}/series', { params: { path: { id: type.id } } })),
  })
  const day = useDay()
  if (!series.data?.length) return null
  return (
    <section aria-labelledby="together-head" className="mt-7 max-w-3xl">
      <h2 id="together-head">{say.types.setTogether}</h2>
      <ul className="mt-1">
        {series.data.map((one) => {
          const from = day(one.first)
          const range = one.first === one.last ? from : `${from} – ${day(one.last)}`
          return (
            <li key={one.id} className="flex flex-wrap items-baseline gap-x-4 border-b border-rule py-2">
              <span className="figures min-w-60 font-semibold">{range}</span>
              <span className="flex-1 text-note text-ink-2">{say.types.seriesOf(one.sessions)}</span>
              <Button
                kind="text"
                aria-label={`${say.types.oneMoreDate}, ${from}`}
                onClick={() => onBegin({ text: '', addTo: one })}
              >
                {say.types.oneMoreDate}
              </Button>
              <Button
                kind="text"
                aria-label={`${say.types.setAgain}, ${from}`}
                onClick={() => onBegin({ text: told(one.again) })}
              >
                {say.types.setAgain}
              </Button>
            </li>
          )
        })}
      </ul>
    </section>
  )
}

function One({ session, zone, today }: { session: Session; zone: string; today: string }) {
  const [start, end] = [new Date(session.start), new Date(session.end)]
  const { date } = wallClock(start, zone)
  const [from, to] = clockRange(start, end, zone)
  const when = `${shortDateInYear(date, today)}, ${from}–${to}`
  return (
    <li className="grid grid-cols-[15rem_1fr_auto] items-baseline gap-x-4 border-b border-rule py-2 max-sm:grid-cols-[1fr_auto]">
      {session.may ? (
        <Link className="figures font-semibold" to={`/board?from=${date}&booking=${session.id}`}>
          {when}
        </Link>
      ) : (
        <span className="figures font-semibold">{when}</span>
      )}
      <span className="text-note text-ink-2 max-sm:order-last max-sm:col-span-2">{session.hosts.join(', ')}</span>
      <span className="flex items-baseline gap-3 text-note text-ink-2">
        <span className="relative inline-block h-3.5 w-24">
          <SeatMarks filling={session} />
        </span>
        <span className="min-w-36 text-right">
          {session.taken >= session.seats
            ? say.types.isFull(session.waiting ?? 0)
            : say.today.seatsTaken(session.taken, session.seats)}
        </span>
      </span>
    </li>
  )
}
