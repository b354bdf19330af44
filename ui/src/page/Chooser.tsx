import { type ReactNode, useState } from 'react'
import type { Schemas } from '../api/client'
import { Need } from '../kit/kit'
import { clock, longDate, wallClock } from '../time/time'
import { DayTimes } from './DayTimes'
import { OwnCalendar } from './OwnCalendar'
import type { Look, useOpenTimes } from './open'
import type { Busy } from './own'
import { Sessions } from './Sessions'
import { Skyline } from './Skyline'
import { Soonest } from './Soonest'
import { said, useTexts } from './texts'

interface Props {
  page: Schemas['Page']
  /** How long the meeting is to last. */
  minutes: number
  zone: string
  times: ReturnType<typeof useOpenTimes>
  later: number
  onLater: (later: number) => void
  date: string | null
  onDate: (date: string) => void
  chosen: Date | null
  onChoose: (start: Date) => void
  /** What stands beside the day. */
  children: ReactNode
}

/** Choosing a day and a time: the skyline, and below it the chosen day or the soonest ones. */
export function Chooser(props: Props) {
  const { zone, later, date, onDate } = props
  const { sessions } = props.page
  const { look, refusal } = props.times
  const [soonest, setSoonest] = useState(false)
  const [busy, setBusy] = useState<Busy[] | null>(null)
  const t = useTexts()

  if (!look)
    return refusal ? <Need>{said(t, refusal.told)}</Need> : <p className="min-h-[70vh] text-ink-3">{t.looking}</p>
  const showDay = (to: string) => {
    setSoonest(false)
    onDate(to)
    const [only, more] = look.byDate.get(to) ?? []
    if (sessions && only && !more) props.onChoose(only)
  }
  const openOn = (on: string) => {
    const count = look.byDate.get(on)?.length ?? 0
    return count === 0 ? t.noOpenTimes : t.open(count)
  }
  const choose = (start: Date) => {
    setSoonest(false)
    onDate(wallClock(start, zone).date)
    props.onChoose(start)
  }
  return (
    <div>
      {refusal && <Need className="mb-3">{said(t, refusal.told)}</Need>}
      <p role="status" className="sr-only">
        {props.chosen ? momentOf(props.chosen, zone) : date && `${longDate(date)}: ${openOn(date)}`}
      </p>
      <Skyline look={look} zone={zone} chosen={date} minutes={props.minutes} busy={busy} onChoose={showDay} />
      <p className="mt-1 flex justify-between text-note">
        {later > 0 ? (
          <button type="button" className="link" onClick={() => props.onLater(later - look.weeks)}>
            {t.earlierWeeks}
          </button>
        ) : (
          <span />
        )}
        <button type="button" className="link" onClick={() => props.onLater(later + look.weeks)}>
          {t.laterWeeks}
        </button>
      </p>
      <OwnCalendar busy={busy} onBusy={setBusy} />
      <div className="mt-4 grid gap-x-11 gap-y-6 lg:grid-cols-[1fr_23rem]">
        <div>
          <div className="flex items-baseline justify-between gap-4">
            <h2 id="day" className="scroll-mt-4">
              {sessions ? t.sessions : soonest ? t.soonestDays : date && longDate(date)}
            </h2>
            {!sessions && (
              <button type="button" className="link text-note" onClick={() => setSoonest(!soonest)}>
                {soonest ? t.oneDay : t.soonestDays}
              </button>
            )}
          </div>
          {sessions ? (
            <Sessions
              page={props.page}
              look={look}
              zone={zone}
              minutes={props.minutes}
              chosen={props.chosen}
              onChoose={choose}
              onDate={onDate}
            />
          ) : soonest ? (
            <Soonest look={look} zone={zone} onChoose={choose} onDate={showDay} />
          ) : (
            date && (
              <DayTimes
                look={look}
                date={date}
                zone={zone}
                hostZone={props.page.hostZone}
                ownClock={props.page.zones === 'client'}
                minutes={props.minutes}
                waits={Boolean(props.page.waiting)}
                chosen={props.chosen}
                busy={busy}
                onChoose={choose}
                onDate={onDate}
              />
            )
          )}
        </div>
        {props.children}
      </div>
    </div>
  )
}

/** "Thursday 3 December, 10:15" */
export function momentOf(start: Date, zone: string): string {
  return `${longDate(wallClock(start, zone).date)}, ${clock(start, zone)}`
}

/** The first day with open times, or today if there is none in sight. */
export function firstOpen(look: Look, zone: string): string {
  return [...look.byDate.keys()].sort()[0] ?? wallClock(new Date(look.open.now), zone).date
}
