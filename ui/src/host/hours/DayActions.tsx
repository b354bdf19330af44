import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api, need, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { Sheet } from '../../kit/Ask'
import { Button } from '../../kit/kit'
import type { Interval } from '../../ribbon/editing'
import { say } from '../../say'
import { longDate, minuteText, weekdayName } from '../../time/time'
import { useHoursChange, useMe } from '../queries'
import { dates, TouchedBookings, what } from './Differing'
import { fullNames } from './Week'

/** A day of the year that was drawn on, or, without intervals, whose changes were asked for. */
export interface Drawn {
  date: string
  intervals: Interval[] | null
}

interface Props {
  drawn: Drawn | null
  day: Schemas['Ribbon'] | undefined
  changes: Schemas['DayChange'][]
  onDone: () => void
}

/** For which days the drawn hours are; or how to take back what differs on a day. */
export function DayActions({ drawn, day, changes, onDone }: Props) {
  const title = drawn ? longDate(drawn.date) : ''
  return (
    <Sheet open={drawn !== null} title={title} onClose={onDone}>
      {drawn?.intervals && <KeepDrawn date={drawn.date} intervals={drawn.intervals} onDone={onDone} />}
      {drawn && !drawn.intervals && (
        <TakeBack
          date={drawn.date}
          changes={changes.filter((change) => day?.changes?.includes(change.id ?? 0))}
          onDone={onDone}
        />
      )}
    </Sheet>
  )
}

function KeepDrawn({ date, intervals, onDone }: { date: string; intervals: Interval[]; onDone: () => void }) {
  const own = weekdayName(date)
  const [chosen, setChosen] = useState([own])
  const draw = useHoursChange((names: string[]) =>
    need(
      api.PUT('/hours/days', {
        // The server counts weekdays from Sunday.
        body: { date, intervals, weekdays: names.map((name) => (fullNames.indexOf(name) + 1) % 7) },
      }),
    ),
  )
  const zone = useMe().data?.person?.zone ?? 'UTC'
  const trial = useQuery({
    queryKey: keys.tried.day(date, intervals),
    queryFn: () => need(api.POST('/hours/days/preview', { body: { date, intervals, weekdays: [] } })),
  }).data
  const keep = (names: string[]) => draw.mutate(names, { onSuccess: onDone })
  const hours = intervals.map((i) => `${minuteText(i.start)}–${minuteText(i.end)}`).join(', ') || say.hours.closed
  return (
    <>
      <p className="figures mb-3 text-ink-2">{hours}</p>
      {trial && <TouchedBookings bookings={trial.outside} zone={zone} />}
      <div className="grid justify-items-start gap-2.5">
        <Button disabled={draw.isPending} onClick={() => keep([])}>
          {say.hours.dayOnly}
        </Button>
        <Button kind="plain" disabled={draw.isPending} onClick={() => keep([own])}>
          {say.hours.forEvery(own)}
        </Button>
        <fieldset className="mt-1">
          <legend className="text-note text-ink-2">{say.hours.chosenWeekdays}</legend>
          <div className="mt-1 flex flex-wrap gap-x-3 gap-y-1">
            {fullNames.map((name) => (
              <label key={name} className="flex items-center gap-1">
                <input
                  type="checkbox"
                  checked={chosen.includes(name)}
                  onChange={(event) =>
                    setChosen(event.target.checked ? [...chosen, name] : chosen.filter((other) => other !== name))
                  }
                />
                {name.slice(0, 3)}
              </label>
            ))}
          </div>
          <Button
            kind="text"
            className="mt-1"
            disabled={chosen.length === 0 || draw.isPending}
            onClick={() => keep(chosen)}
          >
            {say.hours.theseWeekdays}
          </Button>
        </fieldset>
      </div>
      {draw.error && (
        <p role="alert" className="mt-2 text-need">
          {draw.error.message}
        </p>
      )}
    </>
  )
}

function TakeBack({ date, changes, onDone }: { date: string; changes: Schemas['DayChange'][]; onDone: () => void }) {
  const remove = useHoursChange(({ id, only }: { id: number; only?: string }) =>
    need(api.DELETE('/hours/differing/{id}', { params: { path: { id }, query: only ? { date: only } : {} } })),
  )
  const take = (change: Schemas['DayChange'], only?: string) =>
    remove.mutate({ id: change.id ?? 0, ...(only ? { only } : {}) }, { onSuccess: onDone })
  return (
    <>
      <ul className="grid gap-3">
        {changes.map((change) => (
          <li key={change.id}>
            <p>
              {dates(change)}: {what(change)}
            </p>
            <div className="mt-1 flex gap-3">
              {change.first !== change.last && !change.yearly && (
                <Button kind="plain" onClick={() => take(change, date)}>
                  {say.hours.removeDay}
                </Button>
              )}
              <Button kind="plain" onClick={() => take(change)}>
                {change.first === change.last && !change.yearly ? say.hours.removeIt : say.hours.removeWholeSeries}
              </Button>
            </div>
          </li>
        ))}
      </ul>
      {remove.error && (
        <p role="alert" className="mt-2 text-need">
          {remove.error.message}
        </p>
      )}
    </>
  )
}
