import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import { api, need, type Refusal, refusalOf, type Schemas } from '../api/client'
import { addDays, wallClock, weekOf } from '../time/time'
import { nothingPrepared, peek, take } from './given'

export type OpenTimes = Schemas['OpenTimes']

/** The days and times of one look at a page, in the client's zone. */
export interface Look {
  first: string // the first day of a week
  firstWeekday: number
  weeks: number
  byDate: Map<string, Date[]>
  open: OpenTimes
}

export const weeksShown = 5

/** Which meeting type is asked about, and the secret of a booking that is being moved. */
export interface Asked {
  workspace: string
  type: string
  /** On which weeks begin; 0 is Sunday. */
  firstWeekday: number
  /** In minutes; 0 is the one offered first. */
  length: number
  link?: string
  /** The chosen host; 0 for anyone. */
  host?: number
  /** The secret of a one-off offer, whose times were picked by hand. */
  offer?: string | undefined
  /** Answers to what the page asks first, as attribute=value; left out if there are none. */
  answers?: string | undefined
}

async function fetchOpen(
  { workspace, type, length, link, offer, host, answers }: Omit<Asked, 'firstWeekday'>,
  { from, to }: { from: string; to: string },
): Promise<OpenTimes> {
  if (offer) return need(api.GET('/offers/{link}/open', { params: { path: { link: offer } } }))
  return need(
    api.GET('/public/{workspace}/{type}/open', {
      params: {
        path: { workspace, type },
        query: { from, to, length: length || undefined, host: host || undefined, answer: answers?.split('\n') },
        header: link ? { 'Booking-Link': link } : {},
      },
    }),
  )
}

/** The range to ask for: a day more than is shown on either side, since the days are the client's and the range is in UTC. */
function rangeFrom(first: string): { from: string; to: string } {
  return { from: `${addDays(first, -1)}T00:00:00Z`, to: `${addDays(first, 7 * weeksShown + 1)}T00:00:00Z` }
}

/** The open times that came with the document, if they are what is asked about: those for what the link chooses. */
function givenFor({ length, link, offer, host, answers }: Asked, first: string, later: number) {
  const open = peek('open')
  const prepared = peek('prepared') ?? nothingPrepared
  const same =
    (host || 0) === (prepared.host ?? 0) &&
    (length || 0) === (prepared.minutes ?? 0) &&
    (answers ?? '') === asLines(prepared.asked)
  return open && same && !(link || offer || later) ? { open, first } : null
}

/** Answers to what the page asks first, as attribute=value, a line each. */
export function asLines(answers: Record<string, string>): string {
  return Object.entries(answers)
    .map(([attribute, value]) => `${attribute}=${value}`)
    .join('\n')
}

/** Whether a start is open as far as the look reaches; beyond that, it may be. */
export function mayBeOpen(look: Look, start: Date, zone: string): boolean {
  const { date } = wallClock(start, zone)
  if (date < look.first || date >= addDays(look.first, 7 * look.weeks)) return true
  return look.byDate.get(date)?.some((at) => at.getTime() === start.getTime()) ?? false
}

/** How many wait for a seat at a start that is full; nothing if it isn't. */
export function waitingFor(open: OpenTimes, start: Date): number | undefined {
  return open.full?.find((full) => Date.parse(full.start) === start.getTime())?.waiting
}

/** The open starts that are nearest to one, in the order of time. */
export function nearestTo(look: Look, start: Date, most: number): Date[] {
  const away = (at: Date) => Math.abs(at.getTime() - start.getTime())
  const nearest = [...look.byDate.values()].flat().sort((a, b) => away(a) - away(b))
  return nearest.slice(0, most).sort((a, b) => a.getTime() - b.getTime())
}

/** Groups starts by the client's day, without those that only the margin of the range brought. */
export function lookAt(open: OpenTimes, first: string, firstWeekday: number, zone: string): Look {
  const end = addDays(first, 7 * weeksShown)
  const byDate = new Map<string, Date[]>()
  for (const text of open.starts) {
    const at = new Date(text)
    const { date } = wallClock(at, zone)
    if (date >= first && date < end) byDate.set(date, [...(byDate.get(date) ?? []), at])
  }
  return { first, firstWeekday, weeks: weeksShown, byDate, open }
}

/** Asks for open times, again whenever the page is looked at after a while, and when reload is called. */
export function useOpenTimes(asked: Asked, zone: string, later: number) {
  const { workspace, type, firstWeekday, length, link, offer, host, answers } = asked
  const first = addDays(weekOf(wallClock(new Date(), zone).date, firstWeekday), 7 * later)
  const [answer, setAnswer] = useState<{ open: OpenTimes; first: string } | null>(() => givenFor(asked, first, later))
  const [refusal, setRefusal] = useState<Refusal | null>(null)

  const latest = useRef(0)

  const reload = useCallback(async () => {
    latest.current += 1
    const turn = latest.current
    try {
      const open = await fetchOpen({ workspace, type, length, link, offer, host, answers }, rangeFrom(first))
      if (turn !== latest.current) return // something else was asked meanwhile
      setAnswer({ open, first })
      setRefusal(null)
    } catch (error) {
      if (turn === latest.current) setRefusal(refusalOf(error))
    }
  }, [workspace, type, length, link, offer, host, answers, first])

  const given = useRef(answer !== null)
  useEffect(() => {
    take('open')
    if (given.current) given.current = false
    else void reload()
    const again = () => document.visibilityState === 'visible' && void reload()
    document.addEventListener('visibilitychange', again)
    const timer = setInterval(again, 60_000)
    return () => {
      document.removeEventListener('visibilitychange', again)
      clearInterval(timer)
    }
  }, [reload])

  const look = useMemo(
    () => answer && lookAt(answer.open, answer.first, firstWeekday, zone),
    [answer, firstWeekday, zone],
  )
  return { look, refusal, reload }
}
