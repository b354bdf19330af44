import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { type CSSProperties, type ReactNode, useEffect, useState } from 'react'
import { useSearchParams } from 'react-router'
import { api, need, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { useGo } from '../../edit/unsaved'
import { DateInput } from '../../kit/DateField'
import { Button, inline, Need } from '../../kit/kit'
import { axisFor } from '../../ribbon/geometry'
import { useZoom, ZoomRuler } from '../../ribbon/ZoomRuler'
import { say } from '../../say'
import { addDays, longDate, placeOf, shortDate, wallClock, weekOf } from '../../time/time'
import { Away } from '../people/Away'
import { useMe, useTypes, useWorkspace } from '../queries'
import { Unread, View } from '../Shell'
import { reasonsPath } from '../types/Reasons'
import { Undo } from '../Undo'
import { useDo } from '../useDo'
import { useKey } from '../useKey'
import { BookingSheet } from './BookingSheet'
import { type BoardDays, Carry } from './Carry'
import { Enter, type Stretch } from './Enter'
import { Month } from './Month'
import { BoardRow } from './Row'
import { SecondRuler, Shows, useShows } from './Shows'
import { useRowHeight } from './useRowHeight'

/** Days of one's own week, or one day of every colleague, as ribbons: bookings, busy times, what is blocked. */
export function Board() {
  const zone = useMe().data?.person?.zone
  const workspace = useWorkspace()
  if (!zone || !workspace.data) return <Unread error={workspace.error} />
  return <Days today={wallClock(new Date(), zone).date} zone={zone} firstWeekday={workspace.data.firstWeekday} />
}

/** What the board shows, as its address says it. */
function useBoardView(today: string, firstWeekday: number, team: number) {
  const [search, setSearch] = useSearchParams()
  const everybody = search.get('of') === 'all'
  const days = search.get('days') === '14' ? 14 : 7
  const date = search.get('from') ?? (everybody ? today : weekOf(today, firstWeekday))
  const skip = everybody ? Number(search.get('skip')) || 0 : 0
  const show = (next: { from?: string; everybody?: boolean; days?: number; skip?: number; booking?: number }) => {
    const all = next.everybody ?? everybody
    setSearch({
      ...(all ? { of: 'all' } : (next.days ?? days) === 14 ? { days: '14' } : {}),
      from: next.from ?? date,
      ...(next.skip ? { skip: String(next.skip) } : {}),
      ...(next.booking ? { booking: String(next.booking) } : {}),
    })
  }
  return {
    everybody,
    days,
    date,
    skip,
    show,
    last: everybody ? date : addDays(date, days - 1),
    booking: Number(search.get('booking')) || 0,
    view: everybody ? { from: date, everybody, days: 7, team, skip } : { from: date, days },
  }
}

function Days({ today, zone, firstWeekday }: { today: string; zone: string; firstWeekday: number }) {
  const go = useGo()
  const type = useTypes().data?.[0]
  const [entering, setEntering] = useState<Stretch | null>(null)
  const [away, setAway] = useState<Schemas['BoardRow'] | null>(null)
  const [said, setSaid] = useState<{ words: string; booking: number } | null>(null)
  const [shows, setShows] = useShows()
  const at = useBoardView(today, firstWeekday, shows.team)
  const { everybody, days, date, skip, show, view } = at
  const board = useBoard(view, shows.opening)
  const step = (by: number) => show({ from: addDays(date, by * (everybody ? 1 : days)), skip })
  const change = (next: Partial<typeof shows>) => {
    setShows(next)
    if (next.team !== undefined && skip > 0) show({}) // from the first of them on
  }
  const free = () => setEntering(date > today ? { date, from: 9 * 60, to: 10 * 60 } : nextHour(zone))
  const [wanted, setWanted] = useDo('enter')
  useEffect(() => {
    if (!wanted) return
    setWanted(false)
    setEntering(nextHour(zone))
  }, [wanted, setWanted, zone])
  useKey('[', () => step(-1))
  useKey(']', () => step(1))
  useKey('b', free)
  useKey('n', free)
  useKey('e', () => type && go(reasonsPath(type.id, date)))
  const rows = board.data?.rows ?? none
  const [grid, rowHeight] = useRowHeight(rows.length)
  const [axis, zoom] = useZoom(
    axisFor(
      rows.flatMap(({ ribbon }) => [...ribbon.open, ...ribbon.bookings]),
      { from: 7 * 60, to: 20 * 60 },
    ),
  )
  return (
    <View
      title={say.board.board}
      note={everybody ? longDate(date) : say.board.range(shortDate(date), shortDate(at.last))}
      actions={
        <>
          <Undo />
          <Step everybody={everybody} days={days} onStep={step}>
            <DateInput
              aria-label={say.board.dayShow}
              className={`${inline} w-26 text-center font-semibold`}
              value={date}
              onChange={(from) => from && show({ from, skip })}
            />
          </Step>
          <Button kind="text" onClick={() => show({ from: everybody ? today : weekOf(today, firstWeekday), skip })}>
            {say.board.today}
          </Button>
          <Whose
            chosen={everybody ? 'all' : days === 14 ? 14 : 7}
            onChoose={(chosen) =>
              show(
                chosen === 'all'
                  ? { everybody: true, from: everybody || date > today ? date : today }
                  : { everybody: false, days: chosen, from: weekOf(date, firstWeekday) },
              )
            }
          />
          <Button title={say.board.keysNB} onClick={free}>
            {say.board.bookBlock}
          </Button>
        </>
      }
    >
      {board.error && <Need>{board.error.message}</Need>}
      <p role="status" className={said ? 'mb-2 border-l-3 border-act pl-3' : 'sr-only'}>
        {said?.words}{' '}
        {said && (
          <button type="button" className="link" onClick={() => show({ booking: said.booking })}>
            {say.board.see}
          </button>
        )}
      </p>
      <Month
        first={date}
        last={at.last}
        today={today}
        firstWeekday={firstWeekday}
        everybody={everybody}
        team={shows.team}
        onJump={(from) => show({ from: everybody ? from : weekOf(from, firstWeekday), skip })}
      />
      <Shows shows={shows} onChange={change} own={board.data?.zone ?? 'UTC'} teams={board.data?.teams ?? []} />
      <Carry rows={rows} axis={axis} view={view}>
        <div
          ref={grid}
          className={`grid grid-cols-[9rem_minmax(0,1fr)] items-end gap-x-3 max-sm:grid-cols-1 ${shows.hours ? '' : 'hours-hidden'}`}
          style={{ '--row': `${rowHeight}px` } as CSSProperties}
        >
          {board.data && shows.zone && (
            <SecondRuler axis={axis} date={date} zone={board.data.zone} other={shows.zone} />
          )}
          <span className="text-small text-ink-2">{board.data && say.board.time(placeOf(board.data.zone))}</span>
          <ZoomRuler axis={axis} onZoom={zoom} />
          {rows.map((row, index) => (
            <BoardRow
              key={`${row.person} ${row.ribbon.date}`}
              row={row}
              index={index}
              axis={axis}
              name={everybody ? row.person : shortDate(row.ribbon.date)}
              now={row.ribbon.date === board.data?.today ? board.data.minute : undefined}
              onAway={everybody && row.handles ? () => setAway(row) : undefined}
              onDraw={row.own ? (stretch) => setEntering({ date: row.ribbon.date, ...stretch }) : undefined}
              onOpen={(booking) => show({ booking, skip })}
            />
          ))}
        </div>
      </Carry>
      {board.data && everybody && (
        <Further skip={skip} shown={rows.length} of={board.data.people} onSkip={(to) => show({ skip: to })} />
      )}
      <p className="mt-4 text-note text-ink-2">{say.board.drawDayYoursBook}</p>
      {entering && (
        <Enter
          stretch={entering}
          onDone={() => setEntering(null)}
          onMade={(made, client) => {
            setEntering(null)
            setSaid({ words: madeWords(made, client), booking: made.id })
            if (made.own && everybody) show({ from: made.date })
            else if (made.own) show({ from: made.date >= date && made.date <= at.last ? date : made.date })
            else show({ everybody: true, from: made.date })
          }}
        />
      )}
      {at.booking > 0 && <BookingSheet key={at.booking} id={at.booking} zone={zone} onClose={() => show({ skip })} />}
      {away && (
        <Away
          person={{ id: away.id, name: away.person, zone: away.zone }}
          days={{ from: date, to: date }}
          onDone={() => setAway(null)}
        />
      )}
    </View>
  )
}

/** What the board says once something was booked by hand. */
function madeWords(made: Schemas['Made'], client: string): string {
  const more = made.booked - 1
  return say.board.booked(client, longDate(made.date), made.clock, made.own ? '' : made.host, more)
}

/** Back and on by what is shown, around the day that can be typed. */
function Step(props: { everybody: boolean; days: number; onStep: (by: number) => void; children: ReactNode }) {
  const unit = props.everybody ? say.board.day : props.days === 14 ? say.board.twoWeeks : say.board.week
  const arrow = (name: string, key: string, by: number, d: string) => (
    <button
      type="button"
      aria-label={name}
      title={say.board.key(name, key)}
      className="px-1.5 py-1 text-act"
      onClick={() => props.onStep(by)}
    >
      <svg viewBox="0 0 8 12" width="8" height="12" aria-hidden="true">
        <path d={d} fill="none" stroke="currentColor" strokeWidth="1.8" />
      </svg>
    </button>
  )
  return (
    <span className="flex items-center gap-1">
      {arrow(say.board.before(unit), '[', -1, 'M6 1L2 6l4 5')}
      {props.children}
      {arrow(say.board.after(unit), ']', 1, 'M2 1l4 5-4 5')}
    </span>
  )
}

type Shown = 7 | 14 | 'all'

const whose = [
  [say.board.myWeek, 7],
  [say.board.myTwoWeeks, 14],
  [say.board.allColleagues, 'all'],
] as const

function Whose({ chosen, onChoose }: { chosen: Shown; onChoose: (chosen: Shown) => void }) {
  return (
    // biome-ignore lint/a11y/useSemanticElements: a group of buttons, not of fields
    <span role="group" aria-label={say.board.whoseDays} className="flex flex-wrap gap-x-3">
      {whose.map(([words, what]) => (
        <button
          key={what}
          type="button"
          className="link aria-pressed:font-semibold aria-pressed:text-ink aria-pressed:no-underline"
          aria-pressed={chosen === what}
          onClick={() => onChoose(what)}
        >
          {words}
        </button>
      ))}
    </span>
  )
}

const none: Schemas['BoardRow'][] = []

/** How many colleagues at most are shown at once; the server decides it. */
const atOnce = 30

/** Which of many colleagues are shown, and the ways to the others. */
function Further(props: { skip: number; shown: number; of: number; onSkip: (skip: number) => void }) {
  const { skip, shown, of, onSkip } = props
  if (of === shown) return null
  return (
    <p className="mt-3 flex items-baseline gap-x-4 text-note text-ink-2">
      <span className="figures">{say.board.colleaguesShown(skip + 1, skip + shown, of)}</span>
      {skip > 0 && (
        <Button kind="text" onClick={() => onSkip(Math.max(0, skip - atOnce))}>
          {say.board.thoseBefore}
        </Button>
      )}
      {skip + shown < of && (
        <Button kind="text" onClick={() => onSkip(skip + shown)}>
          {say.board.thoseAfter}
        </Button>
      )}
    </p>
  )
}

/** The coming full hour. */
function nextHour(zone: string): Stretch {
  const { date, minute } = wallClock(new Date(Date.now() + 60 * 60_000), zone)
  const from = minute - (minute % 60)
  return { date, from, to: from + 60 }
}

function useBoard(view: BoardDays, opening: number) {
  return useQuery<Schemas['Board']>({
    queryKey: keys.board(view, opening),
    queryFn: () => need(api.GET('/board', { params: { query: { ...view, opening } } })),
    placeholderData: keepPreviousData,
    refetchInterval: 30_000,
  })
}
