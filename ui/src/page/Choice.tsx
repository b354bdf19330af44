import { type ReactNode, useCallback, useEffect, useState } from 'react'
import type { Schemas } from '../api/client'
import { offsetOf, ownZone, placeOf, wallClock, weekOf } from '../time/time'
import { Asks } from './Asks'
import { Chooser, firstOpen } from './Chooser'
import { Frame } from './Frame'
import { Gone } from './Gone'
import { asLines, mayBeOpen, nearestTo, useOpenTimes, waitingFor, weeksShown } from './open'
import { Sentence } from './Sentence'
import { specialOf } from './Sessions'
import { useTexts } from './texts'
import { Zone } from './Zone'

/** Which page it is: of a type, or of a one-off offer, whose secret that is. */
export interface Of {
  workspace: string
  type: string
  offer?: string | undefined
}

function startInAddress(): Date | null {
  const at = new Date(new URLSearchParams(location.search).get('at') ?? '')
  return Number.isNaN(at.getTime()) ? null : at
}

/** How many weeks ahead the weeks are that a date is shown in. */
function laterFor(date: string | null, zone: string, firstWeekday: number): number {
  if (!date) return 0
  const first = Date.parse(weekOf(wallClock(new Date(), zone).date, firstWeekday))
  return Math.max(0, Math.floor((Date.parse(date) - first) / (7 * 24 * 3_600_000 * weeksShown))) * weeksShown
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

/** What a client chooses on a type's page, and the open times for it. Where a workspace shows its own zone alone, the host is
 *  on the same clock as far as the client is told. */
export function useChoice({ workspace, type, offer }: Of, given: Schemas['Page'], prepared: Schemas['Prepared']) {
  const ownClock = given.zones === 'client'
  const page = ownClock ? given : { ...given, hostZone: given.zone }
  const [zone, setZone] = useState(() => (ownClock ? ownZone() : page.zone))
  const [minutes, setMinutes] = useState(prepared.minutes ?? page.minutes)
  const [start, setStart] = useStart()
  const [date, setDate] = useState<string | null>(() => (start ? wallClock(start, zone).date : (prepared.day ?? null)))
  const [later, setLater] = useState(() => laterFor(date, zone, page.firstWeekday))
  const [host, setHost] = useState(prepared.host ?? 0)
  const [way, setWay] = useState(prepared.way ?? given.ways[0]?.id ?? '')
  const [answers, setAnswers] = useState<Record<string, string>>(prepared.asked)
  const times = useOpenTimes(
    {
      workspace,
      type,
      offer,
      firstWeekday: page.firstWeekday,
      length: minutes === page.minutes ? 0 : minutes,
      host,
      answers: asLines(answers) || undefined,
    },
    zone,
    later,
  )
  /** Whether the chosen time is full, and one can wait for it. */
  const wait = Boolean(page.waiting && start && times.look && waitingFor(times.look.open, start) !== undefined)
  /** Where the chosen date is, if not where the others are. */
  const elsewhere = start ? specialOf(start, times.look?.open)?.way : undefined
  const gone = start !== null && times.look !== null && !mayBeOpen(times.look, start, zone) && !wait
  /** What is chosen anew makes it unknown whether the time is still open. */
  const anew =
    <T,>(set: (to: T) => void) =>
    (to: T) => {
      set(to)
      setStart(null)
    }
  return {
    page: elsewhere ? { ...page, ways: [elsewhere] } : page,
    ownClock,
    zone,
    setZone: (to: string) => {
      setZone(to)
      setDate(start && wallClock(start, to).date)
    },
    minutes,
    setMinutes: anew(setMinutes),
    later,
    setLater,
    wait,
    /** The time that is chosen, as long as it is open, or can be waited for. */
    start: gone ? null : start,
    /** One that was chosen, or that the link brought, and is not open any more. */
    gone: gone ? start : null,
    setStart,
    // Until a day is chosen, the first with open times is shown.
    date: date ?? (times.look && firstOpen(times.look, zone)),
    setDate: (to: string | null) => {
      setDate(to)
      if (to) setLater(laterFor(to, zone, page.firstWeekday))
    },
    host,
    setHost: anew(setHost),
    way: elsewhere?.id ?? way,
    setWay,
    answers,
    setAnswers: anew(setAnswers),
    times,
  }
}

/** How many open times are offered in the place of one that is gone. */
const mostNearest = 5

interface Props {
  choice: ReturnType<typeof useChoice>
  /** The address of the workspace's page. */
  home: string | undefined
  onChoose: (start: Date) => void
  /** What stands beside the day. */
  children?: ReactNode
}

/** A type's page as far as a day and a time are chosen on it. */
export function Choice({ choice, home, onChoose, children }: Props) {
  const t = useTexts()
  const { page, zone, times, answers } = choice
  const aside = choice.ownClock ? (
    <Zone zone={zone} onChange={choice.setZone} />
  ) : (
    page.zones === 'workspace' && (
      <span className="text-note text-ink-2">
        {t.timesIn} {placeOf(zone)}, {offsetOf(new Date(), zone)}
      </span>
    )
  )
  return (
    <Frame workspace={page.workspace} home={home} aside={aside}>
      {times.look || times.refusal ? chosen() : <p className="min-h-screen text-ink-3">{t.looking}</p>}
    </Frame>
  )
  function chosen() {
    return (
      <>
        <Sentence
          page={page}
          zone={zone}
          date={choice.date}
          start={choice.start}
          minutes={choice.minutes}
          onMinutes={choice.setMinutes}
          host={choice.host}
          onHost={choice.setHost}
          way={choice.way}
          onWay={choice.setWay}
        />
        <Asks
          asks={page.asks}
          answers={answers}
          onAnswer={(attribute, value) => choice.setAnswers({ ...answers, [attribute]: value })}
        />
        {page.picture && (
          <img src={page.picture} alt="" className="float-right mb-3 ml-6 h-24 w-38 object-cover max-sm:hidden" />
        )}
        {page.description && <p className="-mt-2 mb-5 max-w-3xl whitespace-pre-line text-ink-2">{page.description}</p>}
        {page.seats > 1 && (
          <p className="-mt-2 mb-5 text-note text-ink-2">
            {page.sessions ? t.shareSession(page.seats) : t.shareTime(page.seats)}
            {page.whole ? ` ${t.wholeSeries}` : ''}
            {page.least ? ` ${t.fromPeople(page.least)}` : ''}
          </p>
        )}
        {choice.gone && times.look && (
          <Gone
            start={choice.gone}
            nearest={nearestTo(times.look, choice.gone, mostNearest)}
            zone={zone}
            onChoose={onChoose}
          />
        )}
        <Chooser
          page={page}
          minutes={choice.minutes}
          zone={zone}
          times={times}
          later={choice.later}
          onLater={choice.setLater}
          date={choice.date}
          onDate={choice.setDate}
          chosen={choice.start}
          onChoose={onChoose}
        >
          {children}
        </Chooser>
      </>
    )
  }
}
