import { useQuery } from '@tanstack/react-query'
import { type KeyboardEvent, memo, type UIEvent, useEffect, useMemo, useRef, useState } from 'react'
import { api, need, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { type Axis, axisFor } from '../../ribbon/geometry'
import { HoursRibbon } from '../../ribbon/HoursRibbon'
import { useZoom, ZoomRuler } from '../../ribbon/ZoomRuler'
import { say, told } from '../../say'
import { shortDate, weekdayName } from '../../time/time'
import { DayActions, type Drawn } from './DayActions'

const days = 366
const rowHeight = 32
const shownRows = 12
const margin = 6
const nothing: Schemas['Ribbon'][] = []

/** A year of days as they result, to be drawn on. Only the rows in sight are there, so that it scrolls smoothly. */
export function Year({ saved, locked }: { saved: Schemas['HoursView']; locked: boolean }) {
  const first = saved.next[0]?.date
  const [from, setFrom] = useState(0)
  const [drawn, setDrawn] = useState<Drawn | null>(null)
  const asked = useQuery({
    queryKey: keys.days(first),
    queryFn: () => need(api.GET('/hours/days', { params: { query: { from: first ?? '', days } } })),
    enabled: first !== undefined,
    placeholderData: (last) => last,
  })
  const year = asked.data ?? nothing
  const own = useMemo(
    () =>
      axisFor(
        year.flatMap((day) => day.open),
        { from: 7 * 60, to: 20 * 60 },
      ),
    [year],
  )
  const [axis, zoom] = useZoom(own)
  const rows = useRef<HTMLElement>(null)
  const [at, setAt] = useState(0)
  const [moved, setMoved] = useState(0)
  /** From day to day by keys: the row comes into sight, and has the focus once it is there. */
  const step = (event: KeyboardEvent) => {
    const on = (event.target as HTMLElement).closest<HTMLElement>('[data-day]')
    const by = { ArrowDown: 1, ArrowUp: -1, PageDown: 7, PageUp: -7 }[event.key]
    if (!by || !on || locked) return
    event.preventDefault()
    const next = Math.min(year.length - 1, Math.max(0, year.findIndex((day) => day.date === on.dataset.day) + by))
    const section = rows.current
    const top = next * rowHeight
    if (section && top < section.scrollTop) section.scrollTop = top
    else if (section && top + rowHeight > section.scrollTop + section.clientHeight)
      section.scrollTop = top + rowHeight - section.clientHeight
    setAt(next)
    setMoved(moved + 1)
  }
  useEffect(() => {
    if (moved > 0)
      rows.current?.querySelector<HTMLElement>(`[data-day="${year[at]?.date}"]`)?.focus({ preventScroll: true })
  }, [moved, at, year])
  // Rows come and go a few at a time, not with every pixel.
  const scroll = (event: UIEvent<HTMLElement>) =>
    setFrom(Math.max(0, Math.floor(event.currentTarget.scrollTop / rowHeight / margin) * margin - margin))
  return (
    <section aria-labelledby="year-head" className="mt-7">
      <h2 id="year-head">{saved.whose ? say.hours.yearAheadOf(saved.whose) : say.hours.yearAhead}</h2>
      <p className="mb-2 text-note text-ink-2">
        {locked ? say.hours.saveLeaveChangesWeek : say.hours.drawDayChangeHours}
      </p>
      <div className="grid grid-cols-[5.2rem_minmax(0,1fr)_7rem] max-sm:grid-cols-[5.2rem_minmax(0,1fr)] gap-x-3">
        <span />
        <ZoomRuler axis={axis} onZoom={zoom} />
      </div>
      <section
        ref={rows}
        aria-label={say.hours.daysComingYear}
        className="overflow-y-auto border-y border-rule-strong"
        style={{ height: shownRows * rowHeight }}
        onScroll={scroll}
        onKeyDown={step}
      >
        <div className="relative" style={{ height: year.length * rowHeight }}>
          {year.slice(from, from + shownRows + 3 * margin).map((day, i) => (
            <div
              key={day.date}
              className="absolute inset-x-0 grid grid-cols-[5.2rem_minmax(0,1fr)_7rem] max-sm:grid-cols-[5.2rem_minmax(0,1fr)] items-end gap-x-3 text-note [&_.ribbon]:h-7.5"
              style={{ top: (from + i) * rowHeight, height: rowHeight }}
            >
              <YearDay
                day={day}
                axis={axis}
                locked={locked}
                drawn={drawn?.date === day.date ? drawn : null}
                reachable={from + i === Math.max(at, from)}
                onDraw={setDrawn}
              />
            </div>
          ))}
        </div>
      </section>
      <DayActions
        drawn={drawn}
        day={year.find((day) => day.date === drawn?.date)}
        changes={saved.differs}
        onDone={() => setDrawn(null)}
      />
    </section>
  )
}

interface DayProps {
  day: Schemas['Ribbon']
  axis: Axis
  locked: boolean
  drawn: Drawn | null
  /** Of all days, one is reached by the Tab key. */
  reachable: boolean
  onDraw: (drawn: Drawn) => void
}

const YearDay = memo(function YearDay({ day, axis, locked, drawn, reachable, onDraw }: DayProps) {
  const name = `${weekdayName(day.date)} ${shortDate(day.date)}`
  const differs = day.origin !== undefined && day.origin.code !== 'origin-plan'
  return (
    <>
      <button
        type="button"
        data-day={day.date}
        tabIndex={reachable ? 0 : -1}
        aria-label={say.hours.changeHours(name, told(day.origin))}
        className={`figures pb-1 text-left ${new Date(day.date).getUTCDay() === 1 ? '' : 'text-ink-2'}`}
        disabled={locked}
        onClick={() => onDraw({ date: day.date, intervals: differs ? null : (day.begun ?? []) })}
      >
        {shortDate(day.date)}
      </button>
      <div inert={locked}>
        <HoursRibbon
          name={name}
          intervals={drawn?.intervals ?? day.begun ?? []}
          axis={axis}
          onChange={(intervals) => onDraw({ date: day.date, intervals })}
        />
      </div>
      {differs ? (
        <button
          type="button"
          className="link truncate pb-1 text-left text-small font-semibold max-sm:hidden"
          aria-label={say.hours.changeRemove(shortDate(day.date), told(day.origin))}
          title={told(day.origin)}
          onClick={() => onDraw({ date: day.date, intervals: null })}
        >
          {told(day.origin)}
        </button>
      ) : (
        <span className="pb-1 text-small text-ink-3 max-sm:hidden">{told(day.origin)}</span>
      )}
    </>
  )
})
