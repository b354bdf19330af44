import { useCallback, useEffect, useState } from 'react'
import { inBase64 } from '../api/base64'
import { api, need, type Refusal, refusalOf, type Schemas } from '../api/client'
import { Button } from '../kit/kit'
import { clock, offsetOf, ownZone, placeOf, wallClock } from '../time/time'
import { Asks } from './Asks'
import { Chooser, firstOpen } from './Chooser'
import { Details } from './Details'
import { Frame } from './Frame'
import { useOpenTimes } from './open'
import { Sentence } from './Sentence'
import { useTexts } from './texts'
import { broughtBy, type Typed, useTyped } from './typed'
import { Zone } from './Zone'

interface Props {
  workspace: string
  type: string
  page: Schemas['Page']
  /** The secret of a one-off offer that this is the page of. */
  offer?: string | undefined
  onBooked: (booking: Schemas['ClientBooking']) => void
}

/** What a link says beside what it fills in: ?with=<short name>, ?length=<minutes>. */
function chosenBy(search: string, page: Schemas['Page']) {
  const given = new URLSearchParams(search)
  const length = Number(given.get('length'))
  return {
    host: page.choice.find(({ slug }) => slug === given.get('with'))?.id ?? 0,
    minutes: page.lengths.includes(length) ? length : page.minutes,
  }
}

function startInAddress(): Date | null {
  const at = new Date(new URLSearchParams(location.search).get('at') ?? '')
  return Number.isNaN(at.getTime()) ? null : at
}

/** The chosen time stands in the address, so that going back takes it back, and loading again keeps it. */
function useStart(): [Date | null, (start: Date | null) => void] {
  const [start, setStart] = useState(startInAddress)
  useEffect(() => {
    const again = () => setStart(startInAddress())
    addEventListener('popstate', again)
    return () => removeEventListener('popstate', again)
  }, [])
  const choose = useCallback((to: Date | null) => {
    setStart(to)
    const url = new URL(location.href)
    if (to) url.searchParams.set('at', to.toISOString().replace('.000', ''))
    else url.searchParams.delete('at')
    url.hash = ''
    history[to ? 'pushState' : 'replaceState'](null, '', url)
  }, [])
  return [start, choose]
}

/** A meeting type's page: choose a day and a time, give the details, book. Where a workspace shows its own zone alone,
 *  the host is on the same clock as far as the client is told. */
export function BookPage({ workspace, type, page: given, offer, onBooked }: Props) {
  const t = useTexts()
  const ownClock = given.zones === 'client'
  const page = ownClock ? given : { ...given, hostZone: given.zone }
  const [zone, setZone] = useState(() => (ownClock ? ownZone() : page.zone))
  const [chosen] = useState(() => chosenBy(location.search, given))
  const [minutes, setMinutes] = useState(chosen.minutes)
  const [later, setLater] = useState(0)
  const [start, setStart] = useStart()
  const [date, setDate] = useState<string | null>(() => start && wallClock(start, zone).date)
  const [typed, setTyped] = useTyped(broughtBy(location.search))
  const [refusal, setRefusal] = useState<Refusal | null>(null)
  // One key for one booking: pressing twice, or again after the network failed, books once.
  const [key, setKey] = useState(() => crypto.randomUUID())
  const [host, setHost] = useState(chosen.host)
  const [way, setWay] = useState(given.ways[0]?.id ?? '')
  const [answers, setAnswers] = useState<Record<string, string>>({})
  const asked = Object.entries(answers).map(([attribute, value]) => `${attribute}=${value}`)
  const times = useOpenTimes(
    {
      workspace,
      type,
      offer,
      firstWeekday: page.firstWeekday,
      length: minutes === page.minutes ? 0 : minutes,
      host,
      answers: asked.join('\n') || undefined,
    },
    zone,
    later,
  )

  // Until a day is chosen, the first with open times is shown.
  const day = date ?? (times.look && firstOpen(times.look, zone))
  useEffect(() => {
    document.title = `${page.type} · ${page.workspace}`
  }, [page])
  // A time that a reload or a link brought may have been taken since; what the server says then decides.
  const choose = (at: Date) => {
    setStart(at)
    setDate(wallClock(at, zone).date)
    setRefusal(null)
    setKey(crypto.randomUUID())
  }
  const book = async () => {
    if (!start) return
    try {
      const body = { start: start.toISOString(), minutes, zone, host, answers, way, ...sent(typed) }
      const header = { 'Idempotency-Key': key }
      const booking = offer
        ? api.POST('/offers/{link}/bookings', { params: { path: { link: offer }, header }, body })
        : api.POST('/public/{workspace}/{type}/bookings', { params: { path: { workspace, type }, header }, body })
      onBooked(await need(booking))
    } catch (error) {
      const refused = refusalOf(error)
      setRefusal(refused)
      if (refused.status === 409) {
        setStart(null)
        void times.reload()
      }
    }
  }
  /** What is chosen anew makes it unknown whether the time is still open. */
  const anew =
    <T,>(set: (to: T) => void) =>
    (to: T) => {
      set(to)
      setStart(null)
    }

  return (
    <Frame
      workspace={page.workspace}
      home={offer ? undefined : `/p/${workspace}`}
      aside={
        ownClock ? (
          <Zone
            zone={zone}
            onChange={(to) => {
              setZone(to)
              setDate(start && wallClock(start, to).date)
            }}
          />
        ) : (
          page.zones === 'workspace' && (
            <span className="text-note text-ink-2">
              {t.timesIn} {placeOf(zone)}, {offsetOf(new Date(), zone)}
            </span>
          )
        )
      }
    >
      {!times.look && !times.refusal ? (
        <p className="min-h-screen text-ink-3">{t.looking}</p>
      ) : (
        <>
          <Sentence
            page={page}
            zone={zone}
            date={day}
            start={start}
            minutes={minutes}
            onMinutes={anew(setMinutes)}
            host={host}
            onHost={anew(setHost)}
            way={way}
            onWay={setWay}
          />
          <Asks
            asks={page.asks}
            answers={answers}
            onAnswer={(attribute, value) => anew(setAnswers)({ ...answers, [attribute]: value })}
          />
          {page.picture && (
            <img src={page.picture} alt="" className="float-right mb-3 ml-6 h-24 w-38 object-cover max-sm:hidden" />
          )}
          {page.description && <p className="-mt-2 mb-5 max-w-3xl text-ink-2">{page.description}</p>}
          <Chooser
            page={page}
            minutes={minutes}
            zone={zone}
            times={times}
            later={later}
            onLater={setLater}
            date={day}
            onDate={setDate}
            chosen={start}
            onChoose={choose}
          >
            <Details
              page={page}
              zone={zone}
              start={start}
              way={way}
              typed={typed}
              onType={setTyped}
              onBook={book}
              sendFile={async (file) =>
                need(
                  api.POST('/public/{workspace}/{type}/files', {
                    params: { path: { workspace, type } },
                    body: { name: file.name, data: await inBase64(file) },
                  }),
                )
              }
              refusal={refusal}
              onNearest={choose}
            />
          </Chooser>
        </>
      )}
      {start && <PhoneBar page={page} zone={zone} start={start} />}
    </Frame>
  )
}

function sent({ guests, files: _files, ...typed }: Typed) {
  return {
    ...typed,
    guests: guests
      .split(/[,;\s]+/)
      .map((guest) => guest.trim())
      .filter(Boolean),
  }
}

/** On a phone, the chosen time stays in sight, and a press leads to the details. */
function PhoneBar({ page, zone, start }: { page: Schemas['Page']; zone: string; start: Date }) {
  const t = useTexts()
  const mine = clock(start, zone)
  const theirs = clock(start, page.hostZone)
  return (
    <div className="fixed inset-x-0 bottom-0 flex items-center justify-between border-t border-rule-strong bg-sheet px-5 py-3 sm:hidden">
      <p className="figures text-note text-ink-2">
        {mine} {page.zones === 'client' && t.yourTime}
        {theirs !== mine && (
          <>
            <br />
            {t.inPlace(theirs, placeOf(page.hostZone))}
          </>
        )}
      </p>
      <Button onClick={() => document.getElementById('details')?.scrollIntoView()}>{t.toDetails}</Button>
    </div>
  )
}
