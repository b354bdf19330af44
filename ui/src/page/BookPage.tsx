import { useCallback, useEffect, useState } from 'react'
import { api, need, type Refusal, refusalOf, type Schemas } from '../api/client'
import { Button } from '../kit/kit'
import { clock, offsetOf, ownZone, placeOf, wallClock } from '../time/time'
import { Asks } from './Asks'
import { Chooser } from './Chooser'
import { Details, type Typed } from './Details'
import { Frame } from './Frame'
import { useOpenTimes } from './open'
import { Sentence } from './Sentence'
import { Zone } from './Zone'

interface Props {
  workspace: string
  type: string
  page: Schemas['Page']
  onBooked: (booking: Schemas['ClientBooking']) => void
}

const nothingTyped: Typed = { name: '', mail: '', remark: '' }

/** What was typed stays for as long as the tab does, even if the page is loaded again. */
function useTyped(): [Typed, (typed: Typed) => void] {
  const key = 'typed'
  const [typed, setTyped] = useState<Typed>(() => {
    try {
      return { ...nothingTyped, ...JSON.parse(sessionStorage.getItem(key) ?? '{}') }
    } catch {
      return nothingTyped
    }
  })
  const keep = useCallback((next: Typed) => {
    setTyped(next)
    sessionStorage.setItem(key, JSON.stringify(next))
  }, [])
  return [typed, keep]
}

/** A meeting type's page: choose a day and a time, give the details, book. Where a workspace shows its own zone alone,
 *  the host is on the same clock as far as the client is told. */
export function BookPage({ workspace, type, page: given, onBooked }: Props) {
  const ownClock = given.zones === 'client'
  const page = ownClock ? given : { ...given, hostZone: given.zone }
  const [zone, setZone] = useState(() => (ownClock ? ownZone() : page.zone))
  const [minutes, setMinutes] = useState(page.minutes)
  const [later, setLater] = useState(0)
  const [date, setDate] = useState<string | null>(null)
  const [start, setStart] = useState<Date | null>(null)
  const [typed, setTyped] = useTyped()
  const [refusal, setRefusal] = useState<Refusal | null>(null)
  // One key for one booking: pressing twice, or again after the network failed, books once.
  const [key, setKey] = useState(() => crypto.randomUUID())
  const [host, setHost] = useState(0)
  const [answers, setAnswers] = useState<Record<string, string>>({})
  const asked = Object.entries(answers).map(([attribute, value]) => `${attribute}=${value}`)
  const times = useOpenTimes(
    { workspace, type, firstWeekday: page.firstWeekday, length: minutes, host, answers: asked.join('\n') },
    zone,
    later,
  )

  useEffect(() => {
    document.title = `${page.type} · ${page.workspace}`
  }, [page])

  const choose = (at: Date) => {
    setStart(at)
    setDate(wallClock(at, zone).date)
    setRefusal(null)
    setKey(crypto.randomUUID())
  }
  const book = async () => {
    if (!start) return
    try {
      const booking = await need(
        api.POST('/public/{workspace}/{type}/bookings', {
          params: { path: { workspace, type }, header: { 'Idempotency-Key': key } },
          body: { start: start.toISOString(), minutes, zone, host, answers, ...typed },
        }),
      )
      onBooked(booking)
    } catch (error) {
      const refused = refusalOf(error)
      setRefusal(refused)
      if (refused.status === 409) {
        setStart(null)
        void times.reload()
      }
    }
  }

  return (
    <Frame
      workspace={page.workspace}
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
              Times in {placeOf(zone)}, {offsetOf(new Date(), zone)}
            </span>
          )
        )
      }
    >
      <Sentence
        page={page}
        zone={zone}
        date={date}
        start={start}
        minutes={minutes}
        onMinutes={(to) => {
          setMinutes(to)
          setStart(null) // whether it is open for this length is not known yet
        }}
        host={host}
        onHost={(to) => {
          setHost(to)
          setStart(null)
        }}
      />
      <Asks
        asks={page.asks}
        answers={answers}
        onAnswer={(attribute, value) => {
          setAnswers({ ...answers, [attribute]: value })
          setStart(null)
        }}
      />
      {page.description && <p className="-mt-2 mb-5 max-w-3xl text-ink-2">{page.description}</p>}
      <Chooser
        page={page}
        minutes={minutes}
        zone={zone}
        times={times}
        later={later}
        onLater={setLater}
        date={date}
        onDate={setDate}
        chosen={start}
        onChoose={choose}
      >
        <Details
          page={page}
          zone={zone}
          start={start}
          typed={typed}
          onType={setTyped}
          onBook={book}
          refusal={refusal}
          onNearest={choose}
        />
      </Chooser>
      {start && <PhoneBar page={page} zone={zone} start={start} />}
    </Frame>
  )
}

/** On a phone, the chosen time stays in sight, and a press leads to the details. */
function PhoneBar({ page, zone, start }: { page: Schemas['Page']; zone: string; start: Date }) {
  const mine = clock(start, zone)
  const theirs = clock(start, page.hostZone)
  return (
    <div className="fixed inset-x-0 bottom-0 flex items-center justify-between border-t border-rule-strong bg-sheet px-5 py-3 sm:hidden">
      <p className="figures text-note text-ink-2">
        {mine} {page.zones === 'client' && 'your time'}
        {theirs !== mine && (
          <>
            <br />
            {theirs} in {placeOf(page.hostZone)}
          </>
        )}
      </p>
      <Button onClick={() => document.getElementById('details')?.scrollIntoView({ behavior: 'smooth' })}>
        Your details
      </Button>
    </div>
  )
}
