import type { Schemas } from '../api/client'
import { addDays, clock, clockRange, longDate, placeOf, shortDate, wallClock } from '../time/time'
import { type Look, waitingFor } from './open'
import { type Texts, useTexts } from './texts'

interface Props {
  page: Schemas['Page']
  look: Look
  zone: string
  minutes: number
  chosen: Date | null
  onChoose: (start: Date) => void
  onDate: (date: string) => void
}

/** The dates on which sessions are, in order, each with its seats; those that are full are named too. */
export function Sessions({ page, look, zone, minutes, chosen, onChoose, onDate }: Props) {
  const t = useTexts()
  const all = shown(look, zone)
  if (all.length === 0) {
    const next = look.open.next && wallClock(new Date(look.open.next), zone).date
    return (
      <p className="mt-3 text-ink-2">
        {t.noSessions}{' '}
        {next && (
          <button type="button" className="link" onClick={() => onDate(next)}>
            {t.nextSession(longDate(next))}
          </button>
        )}
      </p>
    )
  }
  return (
    <ul aria-label={t.sessions}>
      {all.map((start) => (
        <Session
          key={start.getTime()}
          start={start}
          minutes={minutes}
          zone={zone}
          hostZone={page.hostZone}
          left={leftOf(start, page, look.open)}
          hidden={page.hideLeft ?? false}
          waiting={page.waiting ? waitingFor(look.open, start) : undefined}
          dates={page.whole ? datesOf(start, look.open) : []}
          special={(at) => specialOf(at, look.open)}
          chosen={start.getTime() === chosen?.getTime()}
          onChoose={onChoose}
        />
      ))}
    </ul>
  )
}

interface One {
  start: Date
  minutes: number
  zone: string
  hostZone: string
  left: number
  /** Whether it isn't said how many are left. */
  hidden: boolean
  /** How many wait, where one can. */
  waiting: number | undefined
  /** Of the series that begins with it, where it is taken whole. */
  dates: Date[]
  /** What holds for one date only. */
  special: (at: Date) => Special | undefined
  chosen: boolean
  onChoose: (start: Date) => void
}

/** One date, to be pressed as long as a seat is left, or can be waited for. */
function Session({ start, minutes, zone, hostZone, left, hidden, waiting, dates, special, chosen, onChoose }: One) {
  const t = useTexts()
  const end = new Date(start.getTime() + minutes * 60_000)
  const [from, to] = clockRange(start, end, zone)
  const theirs = clock(start, hostZone)
  const row = (
    <>
      <span className="min-w-52 font-semibold">{longDate(wallClock(start, zone).date)}</span>
      <span className="figures">
        {from}–{to}
        {theirs !== clock(start, zone) && (
          <small className={`ml-2 text-small ${chosen ? '' : 'text-ink-3'}`}>
            {t.inPlace(theirs, placeOf(hostZone))}
          </small>
        )}
      </span>
      <span className={`ml-auto text-note ${chosen ? '' : 'text-ink-2'}`}>
        {left > 0 ? !hidden && t.seatsLeft(left) : t.full(waiting ?? 0)}
        {waiting !== undefined && <span className={`ml-3 ${chosen ? '' : 'text-act'}`}>{t.joinList}</span>}
      </span>
      {dates.length > 0 && (
        <span className={`w-full text-note ${chosen ? '' : 'text-ink-2'}`}>
          {t.datesOf(dates.length)}: {dates.map((at) => dateOf(at, start, zone)).join(' · ')}
        </span>
      )}
      {(dates.length > 0 ? dates : [start]).map((at) => {
        const said = saidOf(special(at), t)
        if (!said) return null
        return (
          <span
            key={at.getTime()}
            className={`mt-1 w-full text-note whitespace-pre-line ${chosen ? '' : 'text-ink-2'}`}
          >
            {dates.length > 0 && `${dateOf(at, start, zone)}: `}
            {said}
          </span>
        )
      })}
    </>
  )
  const line = 'flex w-full flex-wrap items-baseline gap-x-4 border-b px-1 py-2 text-left'
  return (
    <li>
      {left > 0 || waiting !== undefined ? (
        <button
          type="button"
          aria-pressed={chosen}
          onClick={() => onChoose(start)}
          className={`${line} ${chosen ? 'rounded-(--radius) border-act bg-act text-on-act' : 'border-rule hover:bg-act-soft'}`}
        >
          {row}
        </button>
      ) : (
        <p className={`${line} border-rule text-ink-2`}>{row}</p>
      )}
    </li>
  )
}

type Special = Schemas['SpecialDate']

/** What holds for one date only, if something does. */
export function specialOf(start: Date, open: Schemas['OpenTimes'] | undefined): Special | undefined {
  return open?.special?.[start.toISOString().replace('.000', '')]
}

function saidOf(special: Special | undefined, t: Texts): string {
  const { about, way } = special ?? {}
  const where = way && (way.text ? `${t.where}: ${way.text}` : t.ways[way.kind])
  return [about, where].filter(Boolean).join('\n')
}

/** When the sessions of a series are that begins at a start. */
export function datesOf(start: Date, open: Schemas['OpenTimes']): Date[] {
  return open.series?.[start.toISOString().replace('.000', '')]?.map((at) => new Date(at)) ?? []
}

/** The date of one session, with its time of day if that is another than the first one's. */
function dateOf(at: Date, first: Date, zone: string): string {
  const day = shortDate(wallClock(at, zone).date)
  return clock(at, zone) === clock(first, zone) ? day : `${day} ${clock(at, zone)}`
}

/** The sessions of the weeks that are shown, full ones among them. */
function shown(look: Look, zone: string): Date[] {
  const end = addDays(look.first, 7 * look.weeks)
  const full = (look.open.full ?? []).map(({ start }) => new Date(start))
  return [...[...look.byDate.values()].flat(), ...full]
    .filter((at) => {
      const { date } = wallClock(at, zone)
      return date >= look.first && date < end
    })
    .sort((a, b) => a.getTime() - b.getTime())
}

function leftOf(start: Date, page: Schemas['Page'], open: Schemas['OpenTimes']): number {
  if (waitingFor(open, start) !== undefined) return 0
  return open.left?.[start.toISOString().replace('.000', '')] ?? page.seats
}
