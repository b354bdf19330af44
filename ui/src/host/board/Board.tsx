import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { useSearchParams } from 'react-router'
import { api, need, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { useGo } from '../../edit/unsaved'
import { Button, Need } from '../../kit/kit'
import { axisFor } from '../../ribbon/geometry'
import { useZoom, ZoomRuler } from '../../ribbon/ZoomRuler'
import { addDays, longDate, placeOf, shortDate, wallClock, weekOf } from '../../time/time'
import { Away } from '../people/Away'
import { useMe, useTypes, useWorkspace } from '../queries'
import { View } from '../Shell'
import { reasonsPath } from '../types/Reasons'
import { Undo } from '../Undo'
import { useKey } from '../useKey'
import { type BoardDays, Carry } from './Carry'
import { Enter, type Stretch } from './Enter'
import { BoardRow } from './Row'
import { SecondRuler, Shows, useShows } from './Shows'

/** Days of one's own week, or one day of every colleague, as ribbons: bookings, busy times, what is blocked. */
export function Board() {
  const zone = useMe().data?.person?.zone
  const workspace = useWorkspace()
  if (workspace.error) return <Need className="m-10">{workspace.error.message}</Need>
  if (!zone || !workspace.data) return null
  return <Days today={wallClock(new Date(), zone).date} zone={zone} firstWeekday={workspace.data.firstWeekday} />
}

function Days({ today, zone, firstWeekday }: { today: string; zone: string; firstWeekday: number }) {
  const [search, setSearch] = useSearchParams()
  const go = useGo()
  const type = useTypes().data?.[0]
  const everybody = search.get('of') === 'all'
  const date = search.get('from') ?? (everybody ? today : weekOf(today, firstWeekday))
  const [entering, setEntering] = useState<Stretch | null>(null)
  const [away, setAway] = useState<Schemas['BoardRow'] | null>(null)
  const [shows, setShows] = useShows()
  const skip = everybody ? Number(search.get('skip')) || 0 : 0
  const view = everybody ? { from: date, everybody, days: 7, team: shows.team, skip } : { from: date, days: 7 }
  const board = useBoard(view, shows.opening)
  const show = (from: string, all: boolean) => setSearch(all ? { of: 'all', from } : { from })
  const step = (by: number) =>
    setSearch({ ...Object.fromEntries(search), from: addDays(date, by * (everybody ? 1 : 7)) })
  const change = (next: Partial<typeof shows>) => {
    setShows(next)
    if (next.team !== undefined && skip > 0) show(date, everybody) // from the first of them on
  }
  const free = () => setEntering(date > today ? { date, from: 9 * 60, to: 10 * 60 } : nextHour(zone))
  useKey('[', () => step(-1))
  useKey(']', () => step(1))
  useKey('b', free)
  useKey('n', free)
  useKey('e', () => type && go(reasonsPath(type.id, date)))
  const rows = board.data?.rows ?? none
  const [axis, zoom] = useZoom(
    axisFor(
      rows.flatMap(({ ribbon }) => [...ribbon.open, ...ribbon.bookings]),
      { from: 7 * 60, to: 20 * 60 },
    ),
  )
  return (
    <View
      title="Board"
      note={everybody ? longDate(date) : `${shortDate(date)} to ${shortDate(addDays(date, 6))}`}
      actions={
        <>
          <Undo />
          <Button kind="text" title="Key [" onClick={() => step(-1)}>
            {everybody ? 'Day before' : 'Week before'}
          </Button>
          <Button kind="text" onClick={() => show(everybody ? today : weekOf(today, firstWeekday), everybody)}>
            Today
          </Button>
          <Button kind="text" title="Key ]" onClick={() => step(1)}>
            {everybody ? 'Day after' : 'Week after'}
          </Button>
          <Button kind="plain" onClick={() => show(everybody ? weekOf(today, firstWeekday) : today, !everybody)}>
            {everybody ? 'My days' : 'All colleagues'}
          </Button>
          <Button title="Keys n and b" onClick={free}>
            Book or block
          </Button>
        </>
      }
    >
      {board.error && <Need>{board.error.message}</Need>}
      <Shows shows={shows} onChange={change} own={board.data?.zone ?? 'UTC'} teams={board.data?.teams ?? []} />
      <Carry rows={rows} axis={axis} view={view}>
        <div className={`grid grid-cols-[9rem_minmax(0,1fr)] items-end gap-x-3 ${shows.hours ? '' : 'hours-hidden'}`}>
          {board.data && shows.zone && (
            <SecondRuler axis={axis} date={date} zone={board.data.zone} other={shows.zone} />
          )}
          <span className="text-small text-ink-2">{board.data && `${placeOf(board.data.zone)} time`}</span>
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
            />
          ))}
        </div>
      </Carry>
      {board.data && everybody && (
        <Further
          skip={skip}
          shown={rows.length}
          of={board.data.people}
          onSkip={(to) => setSearch({ of: 'all', from: date, ...(to > 0 ? { skip: String(to) } : {}) })}
        />
      )}
      <p className="mt-4 text-note text-ink-2">
        Draw on a day of yours to book a client, to block time or to open more of it. Drag a booking, or press m on it,
        to carry it elsewhere. Hatched is busy elsewhere: those events are changed where they live.
      </p>
      {entering && <Enter stretch={entering} onDone={() => setEntering(null)} />}
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

const none: Schemas['BoardRow'][] = []

/** How many colleagues at most are shown at once; the server decides it. */
const atOnce = 30

/** Which of many colleagues are shown, and the ways to the others. */
function Further(props: { skip: number; shown: number; of: number; onSkip: (skip: number) => void }) {
  const { skip, shown, of, onSkip } = props
  if (of === shown) return null
  return (
    <p className="mt-3 flex items-baseline gap-x-4 text-note text-ink-2">
      <span className="figures">
        Colleagues {skip + 1} to {skip + shown} of {of}
      </span>
      {skip > 0 && (
        <Button kind="text" onClick={() => onSkip(Math.max(0, skip - atOnce))}>
          Those before
        </Button>
      )}
      {skip + shown < of && (
        <Button kind="text" onClick={() => onSkip(skip + shown)}>
          Those after
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
