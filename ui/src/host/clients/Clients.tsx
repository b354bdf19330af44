import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { useParams } from 'react-router'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { hasChanged, keys } from '../../api/keys'
import { useGo } from '../../edit/unsaved'
import { Button, Need, TextArea, TextField } from '../../kit/kit'
import { say } from '../../say'
import { clock, offsetOf, placeOf, shortDate, wallClock } from '../../time/time'
import { Files } from '../Files'
import { useMe, useTypes } from '../queries'
import { View } from '../Shell'
import { answerInWords, stateWords, stepWords } from '../steps'
import { Attendance } from '../today/Attendance'
import { useDebounced } from '../useDebounced'
import { MakeOffer, Offers } from './Offers'

/** Everybody who has booked, and beside the list the chosen one's history. */
export function Clients() {
  const { mail } = useParams()
  const [search, setSearch] = useState('')
  const still = useDebounced(search, 150)
  const clients = useQuery<Schemas['Client'][], Refusal>({
    queryKey: keys.clients(still),
    queryFn: () => need(api.GET('/clients', { params: { query: { search: still } } })),
    placeholderData: (before) => before,
  })
  return (
    <View
      title={say.clients.clients}
      note={clients.data && (clients.data.length === 100 ? say.clients.latest(100) : String(clients.data.length))}
      actions={<MakeOffer words={say.clients.offerTimes} client={{ name: '', mail: '' }} strong />}
      aside={mail ? <History key={mail} mail={mail} /> : <Offers />}
      asideWidth="minmax(0, 1fr)"
    >
      {clients.error && <Need>{clients.error.message}</Need>}
      <div className="mb-3 max-w-96">
        <TextField
          label={say.clients.findNameMail}
          type="search"
          value={search}
          onChange={(event) => setSearch(event.target.value)}
        />
      </div>
      {clients.data?.length === 0 && (
        <p className="border-y border-rule py-4 text-ink-2">
          {still ? say.clients.nobodyNameMailHas : say.clients.nobodyHasBookedYet}
        </p>
      )}
      <ul aria-label={say.clients.clients}>
        {clients.data?.map((client) => (
          <Row key={client.mail} client={client} chosen={client.mail === mail} />
        ))}
      </ul>
    </View>
  )
}

function Row({ client, chosen }: { client: Schemas['Client']; chosen: boolean }) {
  const go = useGo()
  const zone = useMe().data?.person?.zone ?? 'UTC'
  return (
    <li
      className={`grid grid-cols-[minmax(0,1fr)_auto] items-baseline gap-x-4 sm:grid-cols-[1fr_7rem_9rem] border-t border-rule px-1 py-2 ${chosen ? 'bg-act-soft' : ''}`}
    >
      <span className="min-w-0 max-sm:row-span-2">
        <button
          type="button"
          className="link text-left font-semibold"
          aria-current={chosen ? 'true' : undefined}
          onClick={() => go(`/clients/${encodeURIComponent(client.mail)}`)}
        >
          {client.name}
        </button>
        <span className="block truncate text-note text-ink-2">{client.mail}</span>
      </span>
      <span className="figures text-note text-ink-2 max-sm:text-right">{say.clients.meeting(client.bookings)}</span>
      <span className="figures text-right text-note text-ink-2">{day(client.latest, zone)}</span>
    </li>
  )
}

function day(at: string, zone: string): string {
  return shortDate(wallClock(new Date(at), zone).date)
}

/** What a client booked, answered and agreed to, and what is noted about them. */
function History({ mail }: { mail: string }) {
  const zone = useMe().data?.person?.zone ?? 'UTC'
  const client = useQuery<Schemas['ClientHistory'], Refusal>({
    queryKey: keys.client(mail),
    queryFn: () => need(api.GET('/clients/{mail}', { params: { path: { mail } } })),
  })
  if (client.error) return <Need>{client.error.message}</Need>
  if (!client.data) return null
  const c = client.data
  const now = new Date()
  return (
    <>
      <h2>{c.name}</h2>
      <p className="text-note text-ink-2">
        {say.clients.nowSince(
          <a className="underline" href={`mailto:${c.mail}`}>
            {c.mail}
          </a>,
          placeOf(c.zone),
          offsetOf(now, c.zone),
          clock(now, c.zone),
          day(c.since, zone),
        )}
      </p>
      {c.returned && <MailReturned mail={mail} returned={c.returned} zone={zone} />}
      <Notes key={c.notes} mail={mail} notes={c.notes} />
      <BookAgain client={c} />
      <p className="mt-1 text-note">
        <MakeOffer words={say.clients.offerThemTimes} client={c} />
      </p>
      <ul className="mt-4" aria-label={say.clients.bookings}>
        {c.history.map((booking) => (
          <Past key={booking.id} booking={booking} zone={zone} />
        ))}
      </ul>
      {c.consents.length > 0 && (
        <>
          <h3 className="mt-5">{say.clients.agreed}</h3>
          <ul className="text-note text-ink-2">
            {c.consents.map((consent) => (
              <li key={consent.at}>
                {day(consent.at, zone)}: {say.kit.quoted(consent.text)}
              </li>
            ))}
          </ul>
        </>
      )}
    </>
  )
}

/** That mail to the client comes back, until somebody says that it arrives again. */
function MailReturned({ mail, returned, zone }: { mail: string; returned: Schemas['Returned']; zone: string }) {
  const client = useQueryClient()
  const works = useMutation<Schemas['ClientHistory'], Refusal, void>({
    mutationFn: () => need(api.POST('/clients/{mail}/mail-works', { params: { path: { mail } } })),
    onSuccess: (known) => {
      client.setQueryData(keys.client(mail), known)
      return hasChanged(client, 'bookings')
    },
  })
  return (
    <Need className="mt-3" title={say.clients.mailReturned(day(returned.at, zone))}>
      <p className="text-ink-2">{say.clients.theirServerSaid(returned.said)}</p>
      <Button kind="text" onClick={() => works.mutate()}>
        {say.clients.mailWorks}
      </Button>
      {works.error && <p>{works.error.message}</p>}
    </Need>
  )
}

function Past({ booking, zone }: { booking: Schemas['PastOrNext']; zone: string }) {
  const start = new Date(booking.start)
  const begun = start <= new Date()
  return (
    <li className="border-t border-rule py-2 text-note">
      <p>
        <span className="figures">
          {shortDate(wallClock(start, zone).date)} {clock(start, zone)}
        </span>{' '}
        {say.clients.bookingWith(
          <b className="font-semibold">{booking.type}</b>,
          booking.host,
          stateWords[booking.state],
        )}
      </p>
      {booking.said.map((fact) => (
        <p key={fact.word} className="text-ink-2">
          {fact.word} {answerInWords(fact)}
        </p>
      ))}
      <Files files={booking.files} />
      {booking.remark && <p className="text-ink-2">{say.kit.quoted(booking.remark)}</p>}
      {booking.feedback && (
        <p>
          {say.messages.rated(booking.feedback.rating)}
          {booking.feedback.remark && `: ${say.kit.quoted(booking.feedback.remark)}`}
        </p>
      )}
      <p className="text-small text-ink-3">
        {booking.steps
          .map(
            (step) =>
              `${stepWords[step.kind]} ${day(step.at, zone)}${step.note ? ` ${say.kit.quoted(step.note)}` : ''}`,
          )
          .join(' · ')}
      </p>
      {begun && <Attendance booking={booking} />}
    </li>
  )
}

function Notes({ mail, notes }: { mail: string; notes: string }) {
  const [text, setText] = useState(notes)
  const client = useQueryClient()
  const save = useMutation<Schemas['ClientHistory'], Refusal, void>({
    mutationFn: () => need(api.PUT('/clients/{mail}/notes', { params: { path: { mail } }, body: { notes: text } })),
    onSuccess: (saved) => client.setQueryData(keys.client(mail), saved),
  })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    save.mutate()
  }
  return (
    <form onSubmit={submit} className="mt-3" noValidate>
      <TextArea
        label={say.clients.notesColleaguesOnly}
        rows={2}
        value={text}
        problem={save.error?.fields.notes ?? save.error?.message}
        onChange={(event) => setText(event.target.value)}
      />
      {text !== notes && (
        <p className="mt-2">
          <Button type="submit" disabled={save.isPending}>
            {say.clients.saveNotes}
          </Button>
        </p>
      )}
    </form>
  )
}

/** The pages on which this client's name and mail are filled in already. */
function BookAgain({ client }: { client: Schemas['Client'] }) {
  const types = useTypes(true)
  const filled = new URLSearchParams({ name: client.name, mail: client.mail }).toString()
  const open = types.data?.filter((type) => type.listing !== 'off') ?? []
  if (open.length === 0) return null
  return (
    <p className="mt-3 text-note">
      <label>
        {say.clients.bookAgainThem}{' '}
        <select
          className="border-0 border-b border-dotted border-act bg-sheet text-act"
          value=""
          onChange={(event) => window.open(`${event.target.value}?${filled}`, '_blank', 'noreferrer')}
        >
          <option value="">{say.clients.chooseMeetingType}</option>
          {open.map((type) => (
            <option key={type.id} value={type.path}>
              {type.name}
            </option>
          ))}
        </select>
      </label>
    </p>
  )
}
