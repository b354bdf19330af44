import { useState } from 'react'
import type { Schemas } from '../../api/client'
import { ZoneOptions } from '../../kit/ZoneOptions'
import type { Axis } from '../../ribbon/geometry'
import { Ruler } from '../../ribbon/Ribbon'
import { say } from '../../say'
import { minuteText, placeOf, wallClock } from '../../time/time'
import { useTypes } from '../queries'

/** What the board shows beside the days themselves; each browser remembers its own. */
export interface Shown {
  /** Whether open hours are drawn. */
  hours: boolean
  /** The meeting type whose open starts stand on one's own days; 0 for none. */
  opening: number
  /** A second clock above the days; empty for none. */
  zone: string
  /** The team that colleagues are narrowed to; 0 for all. */
  team: number
}

const key = 'corrim board shows'
const nothing: Shown = { hours: true, opening: 0, zone: '', team: 0 }

function remembered(): Shown {
  try {
    return { ...nothing, ...JSON.parse(localStorage.getItem(key) ?? '{}') }
  } catch {
    return nothing // what somebody else wrote there
  }
}

export function useShows(): [shows: Shown, set: (change: Partial<Shown>) => void] {
  const [shows, setShows] = useState(remembered)
  const types = useTypes().data
  const set = (change: Partial<Shown>) => {
    const next = { ...shows, ...change }
    localStorage.setItem(key, JSON.stringify(next))
    setShows(next)
  }
  const known = types?.some((t) => t.id === shows.opening)
  return [known ? shows : { ...shows, opening: 0 }, set]
}

const part =
  'field-sizing-content max-w-52 border-0 border-b border-ink-2 bg-ground px-1 py-0.5 text-note font-semibold text-ink'

/** A line above the board that says what it shows, to be changed word by word. */
export function Shows({
  shows,
  onChange,
  own,
  teams,
}: {
  shows: Shown
  onChange: (change: Partial<Shown>) => void
  own: string
  teams: Schemas['Team'][]
}) {
  const types = useTypes().data ?? []
  return (
    <p className="mb-3 text-note text-ink-2">
      {say.board.openHours}{' '}
      <select
        aria-label={say.board.openHoursBoard}
        className={part}
        value={shows.hours ? 'shown' : 'hidden'}
        onChange={(event) => onChange({ hours: event.target.value === 'shown' })}
      >
        <option value="shown">{say.board.shown}</option>
        <option value="hidden">{say.board.hidden}</option>
      </select>
      {say.board.openStarts}{' '}
      <select
        aria-label={say.board.openStartsBoard}
        className={part}
        value={shows.opening}
        onChange={(event) => onChange({ opening: Number(event.target.value) })}
      >
        <option value={0}>{say.board.noMeetingType}</option>
        {types.map((t) => (
          <option key={t.id} value={t.id}>
            {t.name}
          </option>
        ))}
      </select>
      {say.board.aboveThemClock}{' '}
      <select
        aria-label={say.board.secondClockBoard}
        className={part}
        value={shows.zone}
        onChange={(event) => onChange({ zone: event.target.value })}
      >
        <option value="">{say.board.noOtherPlace}</option>
        <ZoneOptions own={shows.zone || own} />
      </select>
      .{' '}
      {teams.length > 0 && (
        <>
          {say.board.colleaguesOf}{' '}
          <select
            aria-label={say.board.teamBoard}
            className={part}
            value={shows.team}
            onChange={(event) => onChange({ team: Number(event.target.value) })}
          >
            <option value={0}>{say.board.all}</option>
            {teams.map((t) => (
              <option key={t.id} value={t.id}>
                {t.name}
              </option>
            ))}
          </select>
        </>
      )}
    </p>
  )
}

/** A ruler with another zone's clock, as it is on the day. */
export function SecondRuler({ axis, date, zone, other }: { axis: Axis; date: string; zone: string; other: string }) {
  const noon = new Date(`${date}T12:00:00Z`)
  const difference = wallClock(noon, other).minute - wallClock(noon, zone).minute
  const there = (minute: number) => minuteText((((minute + difference) % 1440) + 1440) % 1440).replace(/:00$/, '')
  return (
    <>
      <span className="text-small text-ink-3">{placeOf(other)}</span>
      <div className="text-ink-3">
        <Ruler axis={axis} shown={there} every={axis.to - axis.from > 15 * 60 ? 120 : 60} />
      </div>
    </>
  )
}
