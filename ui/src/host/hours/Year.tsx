import { useQuery } from '@tanstack/react-query'
import { memo, type UIEvent, useMemo, useState } from 'react'
import { api, need, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { type Axis, axisFor } from '../../ribbon/geometry'
import { HoursRibbon } from '../../ribbon/HoursRibbon'
import { useZoom, ZoomRuler } from '../../ribbon/ZoomRuler'
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
  // Rows come and go a few at a time, not with every pixel.
  const scroll = (event: UIEvent<HTMLElement>) =>
    setFrom(Math.max(0, Math.floor(event.currentTarget.scrollTop / rowHeight / margin) * margin - margin))
  return (
    <section aria-labelledby="year-head" className="mt-7">
      <h2 id="year-head">The year ahead</h2>
      <p className="mb-2 text-note text-ink-2">
        {locked
          ? 'Save or leave the changes of the week first; then single days can be drawn here.'
          : 'Draw on a day to change its hours, for that day or every such weekday.'}
      </p>
      <div className="grid grid-cols-[5.2rem_minmax(0,1fr)_7rem] gap-x-3">
        <span />
        <ZoomRuler axis={axis} onZoom={zoom} />
      </div>
      <section
        aria-label="Days of the coming year"
        // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, so it has to be reachable by keys
        tabIndex={0}
        className="overflow-y-auto border-y border-rule-strong"
        style={{ height: shownRows * rowHeight }}
        onScroll={scroll}
      >
        <div className="relative" style={{ height: year.length * rowHeight }}>
          {year.slice(from, from + shownRows + 3 * margin).map((day, i) => (
            <div
              key={day.date}
              className="absolute inset-x-0 grid grid-cols-[5.2rem_minmax(0,1fr)_7rem] items-end gap-x-3 text-note [&_.ribbon]:h-7.5"
              style={{ top: (from + i) * rowHeight, height: rowHeight }}
            >
              <YearDay
                day={day}
                axis={axis}
                locked={locked}
                drawn={drawn?.date === day.date ? drawn : null}
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
  onDraw: (drawn: Drawn) => void
}

const YearDay = memo(function YearDay({ day, axis, locked, drawn, onDraw }: DayProps) {
  const name = `${weekdayName(day.date)} ${shortDate(day.date)}`
  const differs = day.origin !== undefined && day.origin !== 'plan'
  return (
    <>
      <span className={`figures pb-1 ${new Date(day.date).getUTCDay() === 1 ? '' : 'text-ink-2'}`}>
        {shortDate(day.date)}
      </span>
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
          className="link truncate pb-1 text-left text-small font-semibold"
          aria-label={`${shortDate(day.date)}: ${day.origin}. Change or remove`}
          title={day.origin}
          onClick={() => onDraw({ date: day.date, intervals: null })}
        >
          {day.origin}
        </button>
      ) : (
        <span className="pb-1 text-small text-ink-3">{day.origin}</span>
      )}
    </>
  )
})
