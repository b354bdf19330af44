import { type FormEvent, useEffect, useRef, useState } from 'react'
import { api, need, type Refusal, refusalOf, type Schemas } from '../api/client'
import { Button, Need, TextField } from '../kit/kit'
import { clock, clockRange, dayAndMonth, longDate, offsetOf, placeOf, wallClock } from '../time/time'
import { momentOf } from './Chooser'
import { CorrectPanel } from './CorrectPanel'
import { outside, within } from './embedded'
import { FollowUps } from './FollowUps'
import { Frame } from './Frame'
import { GivePanel } from './GivePanel'
import { intoFocus, secretOf } from './link'
import { MovePanel } from './MovePanel'
import { Rating } from './Rating'
import { TextMessages } from './TextMessages'
import { telOf } from './tel'
import { Pieces, said, type Texts, useTexts } from './texts'
import { whoIs } from './who'

type Booking = Schemas['ClientBooking']

interface Props {
  booking: Booking
  fresh: boolean
  onChange: (booking: Booking) => void
}

/** A booking as its client sees it: how it stands, the facts, and what can be done. */
export function BookingPage({ booking, fresh, onChange }: Props) {
  const t = useTexts()
  const [doing, setDoing] = useState(() => answered(booking))
  const head = useFocusKept(`${booking.state} ${booking.start} ${doing}`, fresh)
  useEffect(() => {
    document.title = `${booking.type} · ${booking.workspace}`
  }, [booking])
  const done = (next: Booking) => {
    setDoing('nothing')
    onChange(next)
  }
  return (
    <Frame workspace={booking.workspace} home={booking.page.split('/').slice(0, 3).join('/')}>
      <h1 ref={head} tabIndex={-1} className="text-[22px] outline-none sm:text-[29px]">
        {headline(booking, fresh, t)}
      </h1>
      {!fresh && booking.last && <p className="mt-1 text-ink-2">{lastChange(booking, booking.last, t)}</p>}
      <Next booking={booking} fresh={fresh} onChange={onChange} />
      {(booking.mayRate || booking.rated) && <Rating booking={booking} onRated={onChange} />}
      <FollowUps booking={booking} onChange={onChange} />
      <Facts booking={booking} />
      {booking.texts && <TextMessages booking={booking} texts={booking.texts} onChange={onChange} />}
      {doing === 'nothing' && <Actions booking={booking} onDo={setDoing} />}
      {doing === 'correcting' && booking.correct && (
        <CorrectPanel
          booking={booking}
          correct={booking.correct}
          onCorrected={done}
          onKeep={() => setDoing('nothing')}
        />
      )}
      {doing === 'moving' && <MovePanel booking={booking} onMoved={done} onKeep={() => setDoing('nothing')} />}
      {doing === 'giving' && (
        <GivePanel booking={booking} seats={stillOwn(booking)} onGiven={done} onKeep={() => setDoing('nothing')} />
      )}
      {(doing === 'cancelling' || doing === 'cancelling-all') && (
        <CancelPanel
          booking={booking}
          all={doing === 'cancelling-all' ? stillTaken(booking) : 0}
          onCancelled={done}
          onKeep={() => setDoing('nothing')}
        />
      )}
    </Frame>
  )
}

type Doing = 'nothing' | 'moving' | 'correcting' | 'giving' | 'cancelling' | 'cancelling-all'

/** What a link in a reminder wants to be said. It only opens what says it: opening a link changes nothing. */
function answered(booking: Booking): Doing {
  const answer = new URLSearchParams(location.search).get('answer')
  if (!standing(booking)) return 'nothing'
  if (answer === 'move' && !booking.cantMove) return 'moving'
  return answer === 'cancel' && !booking.cantCancel ? 'cancelling' : 'nothing'
}

/** Whether there is something to move or to cancel. */
function standing(booking: Booking): boolean {
  return ['unproved', 'requested', 'booked', 'waiting', 'offered'].includes(booking.state) && !begun(booking)
}

/** How many of these are the same person's. */
function stillOwn(booking: Booking): number {
  return stillTaken({ ...booking, seats: booking.seats.filter(({ name }) => name === booking.name) })
}

/** How many of the seats that were taken at one go can still be given back. */
function stillTaken({ seats }: Booking): number {
  return seats.filter(({ state, start }) => state === 'booked' && Date.parse(start) > Date.now()).length
}

/** Whether its client waits for a seat, or is offered one. */
function onList({ state }: Booking): boolean {
  return state === 'waiting' || state === 'offered'
}

/** Where the focus goes when what had it is gone, because the page shows something else now. */
function useFocusKept(shown: string, atOnce: boolean) {
  const head = useRef<HTMLHeadingElement>(null)
  const before = useRef(atOnce ? '' : shown)
  useEffect(() => {
    if (before.current !== shown && document.activeElement === document.body) head.current?.focus()
    before.current = shown
  }, [shown])
  return head
}

/** Whether it has begun, by the client's device. */
function begun({ start }: Booking): boolean {
  return Date.parse(start) <= Date.now()
}

function headline(booking: Booking, fresh: boolean, t: Texts): string {
  if (booking.state === 'cancelled' && booking.waited) return t.offList
  if (booking.givenTo) return t.given(booking.givenTo)
  if (booking.state !== 'booked') return t.headlines[booking.state]
  if (booking.over) return t.over
  if (begun(booking)) return t.running
  if (!fresh) return t.headlines.booked
  return severalDates(booking) ? t.freshDates(new Set(booking.seats.map(({ start }) => start)).size) : t.fresh
}

/** What changed it last, since it was booked. */
function lastChange(booking: Booking, { kind, by, at }: Schemas['LastChange'], t: Texts): string {
  const day = dayAndMonth(wallClock(new Date(at), booking.zone).date)
  if (kind === 'corrected') return t.correctedOn(day)
  if (kind === 'reassigned') return t.handedOn(day, whoIs(booking, t))
  return by === 'client' ? t.youMovedOn(day) : t.movedOn(day)
}

/** What is useful now: the code, the other times, where the invitation goes, the way into the room. */
function Next({ booking, fresh, onChange }: Props) {
  const t = useTexts()
  const mail = <b className="font-semibold">{booking.mail}</b>
  const codeTo = booking.codeTo ? <b className="font-semibold">{booking.codeTo}</b> : mail
  const until = booking.expires ? moment(booking.expires, booking.zone) : ''
  switch (booking.state) {
    case 'unproved':
      return (
        <>
          <p className="mt-1 text-ink-2">
            <Pieces of={booking.shared ? t.codeSentAmong(codeTo, until) : t.codeSent(codeTo, until)} />
          </p>
          {booking.codeLost && <Need className="mt-3">{t.codeLost}</Need>}
          <Code booking={booking} onProved={onChange} />
        </>
      )
    case 'requested':
      return booking.proposed.length > 0 ? (
        <Proposed booking={booking} onTaken={onChange} />
      ) : (
        <p className="mt-1 text-ink-2">
          <Pieces of={booking.shared ? t.decidesAmong(mail, until) : t.decides(mail, until)} />
        </p>
      )
    case 'waiting':
    case 'offered':
      return begun(booking) ? null : <Waiting booking={booking} onTaken={onChange} />
    case 'booked':
      if (booking.over) return null
      return (
        <>
          {fresh && (
            <p className="mt-1 text-ink-2">
              <Pieces of={t.onItsWay(mail)} />
            </p>
          )}
          {!fresh && <Coming booking={booking} onChange={onChange} />}
          {booking.after && <p className="mt-3 max-w-3xl whitespace-pre-line">{booking.after}</p>}
          <GoOn booking={booking} fresh={fresh} />
        </>
      )
  }
  return null
}

/** A place on the waiting list, or a seat that got free. */
function Waiting({ booking, onTaken }: { booking: Booking; onTaken: (booking: Booking) => void }) {
  const t = useTexts()
  const [refusal, setRefusal] = useState<Refusal | null>(null)
  const take = async () => {
    try {
      onTaken(await need(api.POST('/bookings/{link}/seat', { params: { path: { link: secretOf(booking) } } })))
    } catch (error) {
      setRefusal(refusalOf(error))
    }
  }
  const until = booking.state === 'offered' && booking.expires ? moment(booking.expires, booking.zone) : ''
  return (
    <>
      <p className="mt-1 text-ink-2">
        {until ? t.offeredUntil(until) : booking.mayTake ? t.freeNow : t.placeInList(booking.ahead ?? 0)}
      </p>
      {booking.mayTake && (
        <p className="mt-4">
          <Button onClick={take}>{t.takeSeat}</Button>
        </p>
      )}
      {refusal && <Need className="mt-3">{said(t, refusal.told)}</Need>}
    </>
  )
}

/** Shortly before the meeting its client can say that they come. */
function Coming({ booking, onChange }: Pick<Props, 'booking' | 'onChange'>) {
  const t = useTexts()
  const [refusal, setRefusal] = useState<Refusal | null>(null)
  const pressed = useRef(false)
  const told = useRef<HTMLParagraphElement>(null)
  // The button goes away with its press, and the focus would be lost.
  useEffect(() => {
    if (pressed.current && booking.confirmed) told.current?.focus()
  }, [booking.confirmed])
  const confirm = async () => {
    pressed.current = true
    try {
      onChange(await need(api.POST('/bookings/{link}/confirm', { params: { path: { link: secretOf(booking) } } })))
    } catch (error) {
      setRefusal(refusalOf(error))
    }
  }
  return (
    <>
      {booking.confirmed && (
        <p className="mt-1 text-ink-2" tabIndex={-1} ref={told}>
          {t.youCome}
        </p>
      )}
      {booking.mayConfirm && (
        <p className="mt-4">
          <Button onClick={confirm}>{t.iCome}</Button>
        </p>
      )}
      {refusal && <Need className="mt-3">{said(t, refusal.told)}</Need>}
    </>
  )
}

/** The way into the room from a while before, and where the workspace leads from here. */
function GoOn({ booking, fresh }: { booking: Booking; fresh: boolean }) {
  const t = useTexts()
  const soon = Date.parse(booking.start) - Date.now() < 30 * 60_000
  const look = 'mt-4 mr-4 inline-block rounded-(--radius) bg-act px-4 py-2 font-semibold text-on-act! no-underline!'
  return (
    <p>
      {soon && booking.joinUrl && (
        <a className={look} href={booking.joinUrl} {...outside}>
          {t.join}
        </a>
      )}
      {fresh && booking.afterUrl && (
        <a className={look} href={booking.afterUrl} {...outside}>
          {t.goOn(new URL(booking.afterUrl).hostname)}
        </a>
      )}
    </p>
  )
}

function moment(at: string, zone: string): string {
  return momentOf(new Date(at), zone)
}

/** Where the code that came is entered, or asked for once more. */
function Code({ booking, onProved }: { booking: Booking; onProved: (booking: Booking) => void }) {
  const t = useTexts()
  const [code, setCode] = useState('')
  const [refusal, setRefusal] = useState<Refusal | null>(null)
  const path = { link: secretOf(booking) }
  useTextWatched(booking, onProved)
  const prove = async (event: FormEvent) => {
    event.preventDefault()
    try {
      onProved(await need(api.POST('/bookings/{link}/prove', { params: { path }, body: { code } })))
    } catch (error) {
      const refused = refusalOf(error)
      setRefusal(refused)
      // Wrong too often, or too late: what became of the booking is what is shown then.
      if (refused.status === 409)
        void need(api.GET('/bookings/{link}', { params: { path } })).then(onProved, (gone) =>
          setRefusal(refusalOf(gone)),
        )
    }
  }
  return (
    <div className="mt-4 max-w-md border-t-3 border-act bg-sheet px-5 py-4">
      <form onSubmit={prove} noValidate className="flex items-end gap-4">
        <div className="flex-1">
          <TextField
            spoken
            label={t.code}
            className="figures w-full border-0 border-b border-ink-2 bg-sheet py-1 text-[22px] tracking-[0.3em]"
            inputMode="numeric"
            autoComplete="one-time-code"
            value={code}
            onChange={(event) => setCode(event.target.value)}
            problem={refusal ? said(t, refusal.toldOf.code ?? refusal.told) : undefined}
          />
        </div>
        <Button type="submit">{t.enterCode}</Button>
      </form>
      <CodeAgain booking={booking} onSent={onProved} />
    </div>
  )
}

const looksEvery = 5000
const mostLooks = 24

/** Looks for two minutes whether the text message with the code could be delivered. */
function useTextWatched(booking: Booking, onChange: (booking: Booking) => void) {
  const [looks, setLooks] = useState(0)
  const waits = booking.codeTo !== undefined && !booking.codeLost && looks < mostLooks
  useEffect(() => {
    if (!waits) return
    const next = setTimeout(async () => {
      setLooks(looks + 1)
      const path = { link: secretOf(booking) }
      const { data } = await api.GET('/bookings/{link}', { params: { path } })
      if (data?.codeLost || (data && data.state !== booking.state)) onChange(data)
    }, looksEvery)
    return () => clearTimeout(next)
  }, [waits, looks, booking, onChange])
}

/** Sends the code once more, to a corrected address or number if need be. */
function CodeAgain({ booking, onSent }: { booking: Booking; onSent: (booking: Booking) => void }) {
  const t = useTexts()
  const byText = booking.codeTo !== undefined
  const [to, setTo] = useState(booking.codeTo ?? booking.mail)
  const [asked, setAsked] = useState(false)
  const [sent, setSent] = useState(false)
  const [refusal, setRefusal] = useState<Refusal | null>(null)
  const send = async (event: FormEvent) => {
    event.preventDefault()
    setSent(false)
    try {
      const params = { path: { link: secretOf(booking) } }
      onSent(await need(api.POST('/bookings/{link}/code', { params, body: byText ? { phone: to } : { mail: to } })))
      setRefusal(null)
      setSent(true)
    } catch (error) {
      setRefusal(refusalOf(error))
    }
  }
  return (
    <form onSubmit={send} noValidate className="mt-4">
      {asked && (
        <TextField
          spoken
          type={byText ? 'tel' : 'email'}
          label={byText ? t.codePhone : t.mail}
          hint={byText ? t.codeTextedAgainHint : t.codeAgainHint}
          autoComplete={byText ? 'tel' : 'email'}
          value={to}
          onChange={(event) => setTo(event.target.value)}
          problem={refusal ? said(t, refusal.toldOf.mail ?? refusal.toldOf.phone ?? refusal.told) : undefined}
        />
      )}
      <p className="mt-2">
        <Button kind={asked ? 'plain' : 'text'} type={asked ? 'submit' : 'button'} onClick={() => setAsked(true)}>
          {t.codeAgain}
        </Button>{' '}
        <span role="status" className="text-note text-ink-2">
          {sent && t.codeSentAgain}
        </span>
      </p>
    </form>
  )
}

/** Other times that the host proposes, each to be taken with a press. */
function Proposed({ booking, onTaken }: { booking: Booking; onTaken: (booking: Booking) => void }) {
  const t = useTexts()
  const [refusal, setRefusal] = useState<Refusal | null>(null)
  const take = async (start: string) => {
    try {
      onTaken(
        await need(
          api.POST('/bookings/{link}/take', { params: { path: { link: secretOf(booking) } }, body: { start } }),
        ),
      )
    } catch (error) {
      setRefusal(refusalOf(error))
    }
  }
  return (
    <section aria-labelledby="proposed-head" className="mt-4 max-w-3xl border-t-3 border-act bg-sheet px-5 py-4">
      <h2 id="proposed-head">{t.proposes(whoIs(booking, t))}</h2>
      <p className="mt-1 text-ink-2">{booking.shared ? t.takeOne : t.orWait}</p>
      {booking.word && <p className="mt-2 whitespace-pre-line">“{booking.word}”</p>}
      <p className="mt-3 flex flex-wrap gap-3">
        {booking.proposed.map((start) => {
          const at = new Date(start)
          return (
            <Button key={start} kind="plain" onClick={() => take(start)}>
              {t.take(longDate(wallClock(at, booking.zone).date), clock(at, booking.zone))}
            </Button>
          )
        })}
      </p>
      {refusal && <Need className="mt-3">{said(t, refusal.told)}</Need>}
    </section>
  )
}

/** "Thursday 3 December, 10:15 to 10:45 (Halifax, UTC−4)" */
function when(booking: Booking, zone: string, t: Texts): string {
  const [start, end] = [new Date(booking.start), new Date(booking.end)]
  const words = t.fromTo(longDate(wallClock(start, zone).date), ...clockRange(start, end, zone))
  return booking.zones === 'hidden' ? words : `${words} (${placeOf(zone)}, ${offsetOf(start, zone)})`
}

function Facts({ booking }: { booking: Booking }) {
  const t = useTexts()
  const start = new Date(booking.start)
  const host = whoIs(booking, t)
  const differs = booking.zones !== 'hidden' && offsetOf(start, booking.zone) !== offsetOf(start, booking.hostZone)
  const facts: [string, React.ReactNode][] = [
    [t.what, booking.type],
    [t.whenWord, when(booking, booking.zone, t)],
  ]
  if (differs) facts.push([t.onClock(host), when(booking, booking.hostZone, t)])
  facts.push([t.with, `${host}, ${booking.workspace}`])
  if (booking.about) facts.push([t.goodToKnow, booking.about])
  if (booking.where) facts.push([t.where, <Where key="where" booking={booking} />])
  else if (booking.way === 'phone') facts.push([t.byPhone, <Call key="call" booking={booking} />])
  else if (booking.way === 'later') facts.push([t.where, t.agreedLater])
  else if (booking.state === 'booked') facts.push([t.videoRoom, <Room key="room" booking={booking} />])
  if (booking.passcode && booking.state === 'booked') facts.push([t.passcode, booking.passcode])
  if (booking.recorded) facts.push([t.note, t.recorded])
  for (const { word, what, kind } of booking.said) facts.push([word, inWords(what, kind, t)])
  if (booking.seats.length > 1)
    facts.push([severalDates(booking) ? t.yourDates : t.whoComes, <Seats key="seats" booking={booking} />])
  if (booking.guests.length > 0) facts.push([t.guestsWord, booking.guests.join(', ')])
  if (booking.remark) facts.push([t.yourRemark, booking.remark])
  if (booking.word && booking.proposed.length === 0) facts.push([t.writes(host), booking.word])
  if (booking.cancelTerms && booking.state === 'booked') facts.push([t.policies, booking.cancelTerms])
  return (
    <dl className="mt-5 max-w-3xl">
      {facts.map(([word, what]) => (
        <div key={word} className="grid border-t border-rule py-2 sm:grid-cols-[12rem_1fr]">
          <dt className="text-note text-ink-2">{word}</dt>
          <dd className="whitespace-pre-line">{what}</dd>
        </div>
      ))}
    </dl>
  )
}

/** Whether what was taken at one go is on several dates, and whether for several people. */
const severalDates = ({ seats }: Booking) => seats.some(({ start }) => start !== seats[0]?.start)
const severalPeople = ({ seats }: Booking) => seats.some(({ name }) => name !== seats[0]?.name)

/** What is given back at one go: dates, or seats on them. */
function allWords(booking: Booking, t: Texts) {
  return severalDates(booking) && !severalPeople(booking)
    ? { ask: t.cancelAllAsk, cancel: t.cancelAll }
    : { ask: t.cancelSeatsAsk, cancel: t.cancelSeats }
}

/** All that was taken with it at one go, each with its own page. */
function Seats({ booking }: { booking: Booking }) {
  const t = useTexts()
  const { seats, zone } = booking
  const [dates, people] = [severalDates(booking), severalPeople(booking)]
  return (
    <ul className="columns-1 sm:columns-2">
      {seats.map((seat) => {
        const start = new Date(seat.start)
        const day = `${longDate(wallClock(start, zone).date)}, ${clock(start, zone)}`
        const which = [dates || !people ? day : '', people ? seat.name : ''].filter(Boolean).join(' · ')
        return (
          <li key={seat.link}>
            {seat.this ? <b className="font-semibold">{which}</b> : <a href={within(seat.link)}>{which}</a>}
            {seat.state === 'cancelled' && <span className="text-note text-ink-2"> {t.givenBack}</span>}
          </li>
        )
      })}
    </ul>
  )
}

/** An answer as it reads in the page's language; only yes and no are ours, the rest is the client's or the host's. */
function inWords(what: string, kind: string, t: Texts): string {
  if (kind !== 'yes-no' && kind !== 'terms') return what
  return what === 'yes' ? t.yes : t.no
}

function Room({ booking }: { booking: Booking }) {
  const t = useTexts()
  if (!booking.joinUrl) return booking.roomLate ? t.roomLate : t.roomComing
  return (
    <a href={booking.joinUrl} className="break-all" {...outside}>
      {booking.joinUrl}
    </a>
  )
}

/** Who calls whom; what the client is to call can be called at once (RFC 3966). */
function Call({ booking: { calls, number = '' } }: { booking: Booking }) {
  const t = useTexts()
  if (!number) return t.ways.phone // of a type from before a number was asked for
  if (calls === 'host') return <Pieces of={t.weCall(number)} />
  return <Pieces of={t.youCall(<a href={telOf(number)}>{number}</a>)} />
}

/** An address leads to the device's own map (RFC 5870). */
function Where({ booking }: { booking: Booking }) {
  const t = useTexts()
  const first = booking.where?.split('\n')[0] ?? ''
  return (
    <>
      {booking.where}
      {'\n'}
      <a href={`geo:0,0?q=${encodeURIComponent(first)}`}>{t.map}</a>
    </>
  )
}

function Actions({ booking, onDo }: { booking: Booking; onDo: (what: Doing) => void }) {
  const t = useTexts()
  if (!standing(booking)) {
    return (
      <p className="mt-5">
        <a href={within(booking.page)}>{t.bookAnotherTime}</a>
      </p>
    )
  }
  const listed = onList(booking)
  const mayMove = !booking.cantMove && !listed
  const mayCancel = !booking.cantCancel
  const late = booking.cantMove ?? booking.cantCancel
  return (
    <>
      <div className="mt-5 flex flex-wrap items-center gap-x-5 gap-y-3">
        {booking.state === 'booked' && (
          <a
            className="rounded-(--radius) border border-act px-4 py-2 font-semibold"
            href={`${booking.link}/meeting.ics`}
            download="meeting.ics"
          >
            {t.addToCalendar}
          </a>
        )}
        {mayMove && (
          <Button kind="plain" onClick={() => onDo('moving')}>
            {t.move}
          </Button>
        )}
        {booking.correct && (
          <Button kind="text" onClick={() => onDo('correcting')}>
            {t.correct}
          </Button>
        )}
        {booking.mayGive && (
          <Button kind="text" onClick={() => onDo('giving')}>
            {t.give}
          </Button>
        )}
        {mayCancel && (
          <Button kind="text" onClick={() => onDo('cancelling')}>
            {listed ? t.leaveList : booking.state === 'booked' ? t.cancelThis : t.withdraw}
          </Button>
        )}
        {booking.state === 'booked' && stillTaken(booking) > 1 && (
          <Button kind="text" onClick={() => onDo('cancelling-all')}>
            {allWords(booking, t).cancel(stillTaken(booking))}
          </Button>
        )}
        <a href={within(booking.page)}>{t.bookAnother}</a>
        {booking.state === 'booked' && (
          <a href={`webcal://${location.host}${booking.link}/meeting.ics`}>{t.followIt}</a>
        )}
      </div>
      {!listed && (!mayMove || !mayCancel) && (
        <p className="mt-3 text-note text-ink-2">
          {late && said(t, late)}{' '}
          <a className="underline" href={`mailto:${booking.hostMail}?subject=${encodeURIComponent(booking.type)}`}>
            {t.writeTo(whoIs(booking, t))}
          </a>
        </p>
      )}
    </>
  )
}

function CancelPanel({
  booking,
  all,
  onCancelled,
  onKeep,
}: {
  booking: Booking
  /** How many are given back with it, itself among them; 0 for it alone. */
  all: number
  onCancelled: (booking: Booking) => void
  onKeep: () => void
}) {
  const t = useTexts()
  const [reason, setReason] = useState('')
  const [refusal, setRefusal] = useState<Refusal | null>(null)
  const requested = booking.state !== 'booked'
  const listed = onList(booking)
  const unheard = booking.state === 'unproved' || listed // the host doesn't know of it, or need not
  const cancel = async () => {
    try {
      onCancelled(
        await need(
          api.POST('/bookings/{link}/cancel', {
            params: { path: { link: secretOf(booking) } },
            body: { reason, all: all > 0 },
          }),
        ),
      )
    } catch (error) {
      setRefusal(refusalOf(error))
    }
  }
  const wrong = refusal?.toldOf.reason
  return (
    <section aria-labelledby="cancel-head" className="mt-6 max-w-xl border-t-3 border-act bg-sheet px-5 py-4">
      <h2 id="cancel-head" ref={intoFocus} tabIndex={-1} className="mb-3 outline-none">
        {all ? allWords(booking, t).ask(all) : listed ? t.leaveAsk : requested ? t.withdrawAsk : t.cancelAsk}
      </h2>
      {!unheard && (
        <TextField
          spoken
          label={booking.askReason ? t.whyNeeded : t.wordTo(whoIs(booking, t))}
          placeholder={booking.askReason ? undefined : t.optional}
          value={reason}
          onChange={(event) => setReason(event.target.value)}
          problem={wrong && said(t, wrong)}
        />
      )}
      {refusal && !wrong && <Need className="mt-3">{said(t, refusal.told)}</Need>}
      <div className="mt-4 flex gap-3">
        <Button onClick={cancel}>
          {all ? allWords(booking, t).cancel(all) : listed ? t.leaveList : requested ? t.withdrawYes : t.cancelYes}
        </Button>
        <Button kind="plain" onClick={onKeep}>
          {t.keepIt}
        </Button>
      </div>
    </section>
  )
}
