import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { type ReactNode, useState } from 'react'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { hasChanged, keys } from '../../api/keys'
import { useGo } from '../../edit/unsaved'
import { Side } from '../../kit/Ask'
import { Button, Need } from '../../kit/kit'
import { say, spoken, told, toldAll } from '../../say'
import { clock, dayAndMonth, offsetOf, placeOf, shortDate, wallClock } from '../../time/time'
import { SoFar } from '../clients/SoFar'
import { Files } from '../Files'
import { HandTo } from '../HandTo'
import { answerInWords, stateWords, stepWords } from '../steps'
import { Attendance } from '../today/Attendance'
import { AddForm, CancelForm, DetailsForm, MoveForm, SeatsForm, WriteForm } from './Forms'
import { Participants } from './Participants'

type Sheet = Schemas['BookingSheet']

/** Everything about one booking, and what can be done with it. */
export function BookingSheet({ id, zone, onClose }: { id: number; zone: string; onClose: () => void }) {
  const sheet = useQuery<Sheet, Refusal>({
    queryKey: keys.onBoard('sheet', id),
    queryFn: () => need(api.GET('/host-bookings/{id}', { params: { path: { id } } })),
  })
  if (sheet.error)
    return (
      <Side title={say.board.thisBooking} onClose={onClose}>
        <Need className="mt-3">{sheet.error.message}</Need>
      </Side>
    )
  if (!sheet.data) return null
  const b = sheet.data
  const [start, end] = [new Date(b.start), new Date(b.end)]
  const minutes = Math.round((end.getTime() - start.getTime()) / 60_000)
  return (
    <Side
      title={isSession(b) ? b.type : b.client}
      above={isSession(b) ? say.board.sessionOf(minutes) : say.board.min(b.type, minutes, stateWords[b.state])}
      onClose={onClose}
    >
      <p className="figures mt-2">
        {shortDate(b.date)},{' '}
        <b className="font-semibold">
          {clock(start, zone)}–{clock(end, zone)}
        </b>{' '}
        <span className="text-note text-ink-2">
          {placeOf(zone)}
          {!isSession(b) &&
            offsetOf(start, zone) !== offsetOf(start, b.clientZone) &&
            say.board.forClient(clock(start, b.clientZone), placeOf(b.clientZone))}
        </span>
      </p>
      <p className="text-note text-ink-2">{say.board.withHosts(b.hosts.join(', '))}</p>
      <Actions sheet={b} zone={zone} onDone={onClose} />
      <Facts sheet={b} zone={zone} />
    </Side>
  )
}

/** Whether it is a session itself, not a client's seat in one. */
const isSession = ({ state }: Sheet) => state === 'scheduled'

type Doing = 'move' | 'hand' | 'cancel' | 'all' | 'add' | 'write' | null

/** What can be done: one at a time is open. */
function Actions({ sheet: b, zone, onDone }: { sheet: Sheet; zone: string; onDone: () => void }) {
  const [doing, setDoing] = useState<Doing>(null)
  const go = useGo()
  const start = new Date(b.start)
  const session = isSession(b)
  const stands = session || b.state === 'booked' || b.state === 'attended' || b.state === 'no-show'
  if (b.state === 'requested')
    return (
      <p className="mt-3">
        <Button onClick={() => go('/')}>{say.board.decideToday}</Button>
      </p>
    )
  const listed = b.state === 'waiting' || b.state === 'offered'
  if (!stands && !listed) return null
  const begun = start <= new Date()
  const taken = b.filling?.taken ?? 1
  const several = session || taken > 1
  const way = (what: Doing, words: string) => (
    <Button
      kind={what === 'cancel' || what === 'all' ? 'text' : 'plain'}
      aria-expanded={doing === what}
      onClick={() => setDoing(doing === what ? null : what)}
    >
      {words}
    </Button>
  )
  return (
    <div className="mt-3">
      <div className="flex flex-wrap items-center gap-2">
        {b.joinUrl && !listed && new Date(b.end) > new Date() && (
          <a
            href={b.joinUrl}
            target="_blank"
            rel="noreferrer"
            className="inline-block rounded-(--radius) border border-act bg-act px-4 py-2 font-semibold text-on-act!"
          >
            {say.board.joinRoom}
          </a>
        )}
        {!begun && !listed && way('move', say.board.move)}
        {!begun && !listed && way('hand', say.board.handOver)}
        {!begun && !listed && b.filling && way('add', say.board.addSomebody)}
        {!listed && b.filling && comers(b).length > 0 && way('write', say.board.writeAll)}
        {!begun &&
          !session &&
          way('cancel', listed ? say.board.takeOffList : taken > 1 ? say.board.cancelSeat : say.board.cancel)}
        {!begun && !listed && several && way('all', session ? say.board.callOff : say.board.cancelForAll)}
      </div>
      {!begun && !listed && taken > 1 && <p className="mt-1 text-note text-ink-2">{say.board.concernsAll}</p>}
      {begun && !b.filling && (
        <p className="mt-2">
          <Attendance booking={b} />
        </p>
      )}
      {doing && (
        <div className="mt-3 border-l-3 border-act pl-3">
          {doing === 'move' && (
            <MoveForm
              id={b.id}
              version={b.version}
              date={b.date}
              minute={wallClock(start, zone).minute}
              onDone={() => setDoing(null)}
            />
          )}
          {doing === 'hand' && <HandTo booking={b.id} onDone={onDone} />}
          {doing === 'cancel' && <CancelForm id={b.id} listed={listed} after={b.series?.seats ?? 0} onDone={onDone} />}
          {doing === 'all' && (
            <CancelForm id={b.id} all={comers(b)} session={session} after={b.series?.after ?? 0} onDone={onDone} />
          )}
          {doing === 'write' && <WriteForm id={b.id} all={comers(b)} onDone={() => setDoing(null)} />}
          {doing === 'add' && <AddForm id={b.id} after={b.series?.after ?? 0} onDone={() => setDoing(null)} />}
        </div>
      )}
    </div>
  )
}

/** The names of those who have a seat. */
const comers = (b: Sheet) => b.participants.filter(({ state }) => state === 'booked').map(({ name }) => name)

function Facts({ sheet: b, zone }: { sheet: Sheet; zone: string }) {
  return (
    <dl className="mt-4">
      {b.filling && (
        <Fact name={say.board.whoComes}>
          <SeatCount of={b} filling={b.filling} />
          {b.participants.length > 0 && <Participants of={b} />}
        </Fact>
      )}
      {b.series && <Fact name={say.board.series}>{say.board.placeInSeries(b.series.position, b.series.of)}</Fact>}
      {!isSession(b) && <Client sheet={b} zone={zone} />}
      {b.texts && (
        <Fact name={say.messages.textMessages}>
          {b.texts.stopped ? say.messages.textsStopped(b.texts.phone) : say.messages.textsTo(b.texts.phone)}
        </Fact>
      )}
      {b.details?.about && (
        <Fact name={say.board.goodToKnow}>
          <span className="whitespace-pre-line">{b.details.about}</span>
        </Fact>
      )}
      <Fact name={say.board.where}>
        <span className="whitespace-pre-line">
          {b.where ?? (b.joinUrl ? say.board.video : say.board.videoRoomBeingMade)}
        </span>{' '}
        {isSession(b) && b.details && <Details of={b} details={b.details} />}
      </Fact>
      {b.feedback && (
        <Fact name={say.messages.feedback}>
          {say.messages.rated(b.feedback.rating)}
          {b.feedback.remark && <span className="block">{say.kit.quoted(b.feedback.remark)}</span>}
        </Fact>
      )}
      {b.remark && <Fact name={say.board.remark}>{say.kit.quoted(b.remark)}</Fact>}
      {(b.said.length > 0 || b.files) && (
        <Fact name={say.board.answers}>
          {b.said.map((fact) => (
            <p key={fact.word}>
              {fact.word} <b className="font-semibold">{answerInWords(fact)}</b>
            </p>
          ))}
          <Files files={b.files} />
        </Fact>
      )}
      {b.guests.length > 0 && <Fact name={say.board.guests}>{b.guests.join(', ')}</Fact>}
      {b.via && <Fact name={say.board.cameBy}>{b.via}</Fact>}
      {b.why.length > 0 && <Fact name={say.board.why(b.hosts[0]?.split(' ')[0] ?? '')}>{toldAll(b.why)}</Fact>}
      {(b.notes || b.checklist) && (
        <Fact name={say.board.preparing}>
          {b.notes && <p className="whitespace-pre-line">{b.notes}</p>}
          <ul className="list-disc pl-4">
            {b.checklist?.map((point) => (
              <li key={point}>{point}</li>
            ))}
          </ul>
        </Fact>
      )}
      {b.messages.length > 0 && (
        <Fact name={say.board.messages}>
          {b.messages.map((message, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: they are never put into another order
            <div key={i}>
              {messageWords(message)}{' '}
              <span className="text-note text-ink-2">
                {stateOf(message)}
                {message.at && ` ${moment(message.at, zone)}`}
              </span>
              {message.said && <span className="block text-note text-ink-2">{say.kit.quoted(message.said)}</span>}
              {message.failed && <span className="block text-note text-need">{say.messages.neverArrived}</span>}
              {message.trouble && <span className="block text-note text-need">{told(message.trouble)}</span>}
              {message.state === 'planned' && <Planned booking={b.id} message={message} />}
              {message.kept && message.job && <AsSent booking={b.id} message={message} job={message.job} />}
              {message.again && message.job && <Again booking={b.id} message={message} job={message.job} />}
            </div>
          ))}
        </Fact>
      )}
      <Fact name={say.board.history}>
        {b.steps.map((step) => (
          <p key={step.at + step.kind}>
            {stepWords[step.kind]}
            {step.by && say.board.by(step.by === 'client' ? say.board.theClient : step.by)}{' '}
            <span className="figures text-note text-ink-2">
              {moment(step.at, zone)}
              {step.from && step.to && `, ${step.from} → ${step.to}`}
              {step.note && ` ${say.kit.quoted(step.note)}`}
            </span>
          </p>
        ))}
      </Fact>
    </dl>
  )
}

/** How many seats are taken, and how many there are, which can be changed until it begins. */
function SeatCount({ of: b, filling }: { of: Sheet; filling: Schemas['Filling'] }) {
  const [changing, setChanging] = useState(false)
  const ahead = new Date(b.start) > new Date()
  return (
    <>
      <p className="text-note text-ink-2">
        {say.today.seatsTaken(filling.taken, filling.seats)}{' '}
        {ahead && (
          <button type="button" className="link" aria-expanded={changing} onClick={() => setChanging(!changing)}>
            {say.board.changeSeats}
          </button>
        )}
      </p>
      {changing && ahead && <SeatsForm id={b.id} seats={filling.seats} onDone={() => setChanging(false)} />}
    </>
  )
}

/** What is special about a session can be changed until it begins. */
function Details({ of: b, details }: { of: Sheet; details: Schemas['SessionDetails'] }) {
  const [changing, setChanging] = useState(false)
  if (new Date(b.start) <= new Date()) return null
  return (
    <>
      <button type="button" className="link text-note" aria-expanded={changing} onClick={() => setChanging(!changing)}>
        {say.board.changeDetails}
      </button>
      {changing && <DetailsForm id={b.id} details={details} all={comers(b)} onDone={() => setChanging(false)} />}
    </>
  )
}

function Client({ sheet: b, zone }: { sheet: Sheet; zone: string }) {
  return (
    <Fact name={say.board.client}>
      {say.board.writes(<a href={`mailto:${b.mail}`}>{b.mail}</a>, languageName(b.language))}
      {b.confirmed && <p>{say.board.saysTheyCome}</p>}
      {b.returned && <p className="text-need">{say.board.mailReturned(b.returned.said)}</p>}
      <p className="text-note text-ink-2">
        <SoFar soFar={b.soFar} mail={b.mail} zone={zone} />
      </p>
    </Fact>
  )
}

function Fact({ name, children }: { name: string; children: ReactNode }) {
  return (
    <div className="grid grid-cols-[5.6rem_minmax(0,1fr)] gap-x-2 border-t border-rule py-2.5">
      <dt className="text-note text-ink-2">{name}</dt>
      <dd className="wrap-anywhere">{children}</dd>
    </div>
  )
}

/** One that waits for its moment can be sent now, or not at all. */
function Planned({ booking, message }: { booking: number; message: Schemas['SentMessage'] }) {
  const client = useQueryClient()
  const params = { path: { id: booking, rule: message.rule ?? 0 } }
  const settle = useMutation<Sheet, Refusal, 'send' | 'leave'>({
    mutationFn: (what) =>
      need(
        what === 'send'
          ? api.POST('/host-bookings/{id}/messages/{rule}', { params })
          : api.DELETE('/host-bookings/{id}/messages/{rule}', { params }),
      ),
    onSuccess: (now) => {
      client.setQueryData(keys.onBoard('sheet', booking), now)
      void hasChanged(client, 'sentMessage')
    },
  })
  const words = messageWords(message)
  return (
    <span className="block text-note text-ink-2">
      {message.if ? (
        `${say.messages.after[message.if]} · `
      ) : (
        <>
          <button
            type="button"
            className="link"
            aria-label={say.messages.sendNowOf(words)}
            onClick={() => settle.mutate('send')}
          >
            {say.messages.sendNow}
          </button>
          {' · '}
        </>
      )}
      <button
        type="button"
        className="link"
        aria-label={say.messages.leaveOutOf(words)}
        onClick={() => settle.mutate('leave')}
      >
        {say.messages.leaveOut}
      </button>
      {settle.error && <span className="block text-need">{settle.error.message}</span>}
    </span>
  )
}

/** What a message said, as it went out. */
function AsSent({ booking, message, job }: SentProps) {
  const [open, setOpen] = useState(false)
  const letters = useQuery<Schemas['SaidLetter'][], Refusal>({
    queryKey: keys.onBoard('sent', booking, job),
    queryFn: () => need(api.GET('/host-bookings/{id}/sent/{job}', { params: { path: { id: booking, job } } })),
    enabled: open,
  })
  return (
    <>
      <button
        type="button"
        className="link ml-1.5 text-note"
        aria-expanded={open}
        aria-label={say.messages.readOf(messageWords(message))}
        onClick={() => setOpen(!open)}
      >
        {say.messages.read}
      </button>
      {letters.error && <span className="block text-note text-need">{letters.error.message}</span>}
      {open &&
        letters.data?.map((letter) => (
          <span key={letter.number} className="my-1.5 block bg-sheet px-3 py-2 text-note">
            {letter.to && <span className="block text-ink-2">{letter.to}</span>}
            <b className="block font-semibold">{letter.subject}</b>
            <span className="block whitespace-pre-line">{letter.text}</span>
          </span>
        ))}
    </>
  )
}

interface SentProps {
  booking: number
  message: Schemas['SentMessage']
  job: number
}

/** One that went out, or was given up, can be sent once more. */
function Again({ booking, message, job }: SentProps) {
  const client = useQueryClient()
  const again = useMutation<Sheet, Refusal, void>({
    mutationFn: () => need(api.POST('/host-bookings/{id}/sent/{job}', { params: { path: { id: booking, job } } })),
    onSuccess: (now) => client.setQueryData(keys.onBoard('sheet', booking), now),
  })
  return (
    <span className="ml-1.5 text-note">
      <button
        type="button"
        className="link"
        aria-label={say.messages.sendAgainOf(messageWords(message))}
        onClick={() => again.mutate()}
      >
        {say.messages.sendAgain}
      </button>
      {again.error && <span className="block text-need">{again.error.message}</span>}
    </span>
  )
}

function messageWords({ by, to, occasion }: Schemas['SentMessage']): string {
  const about = say.messages.wordsOf[occasion] ?? stepWords[occasion as keyof typeof stepWords] ?? say.board.room
  const way = by === 'text' ? `${about} ${say.messages.byText}` : about
  return say.board.toWhom(way, say.board.receivers[to])
}

function stateOf({ state }: Schemas['SentMessage']): string {
  return {
    waiting: say.board.waitsSent,
    sent: say.board.sent,
    dropped: say.board.noLongerNeeded,
    failed: say.board.couldNotSent,
    planned: say.messages.planned,
    left: say.messages.leftOut,
  }[state]
}

/** "23 Nov 09:12" */
function moment(at: string, zone: string): string {
  const time = new Date(at)
  return `${dayAndMonth(wallClock(time, zone).date)} ${clock(time, zone)}`
}

function languageName(tag: string): string {
  return new Intl.DisplayNames(spoken, { type: 'language' }).of(tag || 'en') ?? tag
}
