import { useQuery } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { api, need, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { Button, lineLook, Need } from '../../kit/kit'
import { say, told } from '../../say'
import { clock, dayAndMonth, shortDate, shortDateInYear, wallClock } from '../../time/time'
import { Effects } from '../Effects'
import { Away } from '../people/Away'
import { useHoursChange, useMe } from '../queries'
import { useDebounced } from '../useDebounced'

type Change = Schemas['DayChange']

/** Days that differ from the week: written as a sentence, shown as it is understood, kept, taken back. */
export function Differing({ changes, whose }: { changes: Change[]; whose: string | undefined }) {
  const me = useMe().data?.person
  const [away, setAway] = useState(false)
  const keep = useHoursChange((text: string) => need(api.POST('/hours/differing', { body: { text } })))
  const remove = useHoursChange((id: number) => need(api.DELETE('/hours/differing/{id}', { params: { path: { id } } })))
  const [text, setText] = useState('')
  const reading = useReading(text)
  const count = reading?.changes.length ?? 0
  const problem =
    keep.error?.fields.text ??
    keep.error?.message ??
    (text === '' || !reading?.problem ? undefined : told(reading.problem))
  const submit = (event: FormEvent) => {
    event.preventDefault()
    keep.mutate(text, { onSuccess: () => setText('') })
  }
  return (
    <section aria-labelledby="differing-head" className="mt-7 max-w-3xl">
      <div className="flex items-baseline justify-between">
        <h2 id="differing-head">{whose ? say.hours.exceptionsOf(whose) : say.hours.exceptions}</h2>
        {me && !whose && (
          <Button kind="text" onClick={() => setAway(true)}>
            {say.hours.iAmAway}
          </Button>
        )}
      </div>
      {away && me && <Away person={me} onDone={() => setAway(false)} />}
      <form onSubmit={submit} className="mt-2 flex items-end gap-3" noValidate>
        <input
          aria-label={say.hours.dateWhatDifferent}
          aria-describedby="differing-note"
          aria-invalid={problem ? true : undefined}
          className={lineLook(problem)}
          placeholder={say.hours.exampleException}
          maxLength={500}
          value={text}
          onChange={(event) => {
            keep.reset()
            setText(event.target.value)
          }}
        />
        <Button type="submit" disabled={text === '' || keep.isPending}>
          {say.hours.addThese(count)}
        </Button>
      </form>
      <p
        id="differing-note"
        aria-live="polite"
        className={`mt-1 min-h-5 text-note ${problem ? 'text-need' : 'text-ink-2'}`}
      >
        {problem ??
          (count > 0
            ? say.hours.readAs(reading?.changes.map(inWords).join(' · ') ?? '')
            : say.hours.closedOtherHoursExtra)}
      </p>
      {reading && <Falls reading={reading} />}
      <ul>
        {sorted(changes).map((change) => (
          <li key={change.id} className="grid grid-cols-[1fr_1.4fr_auto] gap-3 border-b border-rule py-2">
            <span>{dates(change)}</span>
            <span>{what(change)}</span>
            <button
              type="button"
              className="link text-note"
              aria-label={say.hours.removeChange(inWords(change))}
              onClick={() => remove.mutate(change.id ?? 0)}
            >
              {say.hours.remove}
            </button>
          </li>
        ))}
      </ul>
      {remove.error && <p className="text-note text-need">{remove.error.message}</p>}
    </section>
  )
}

/** What the days would do: which bookings they fall on, and which open starts come and go. Nothing is saved yet. */
function Falls({ reading: { outside, effects } }: { reading: Schemas['DayTrial'] }) {
  const zone = useMe().data?.person?.zone ?? 'UTC'
  if (outside.length + effects.length === 0) return null
  return (
    <div className="mb-3">
      <TouchedBookings bookings={outside} zone={zone} />
      <Effects effects={effects} />
    </div>
  )
}

/** The bookings that changed days fall on; they stay until somebody decides otherwise. */
export function TouchedBookings({ bookings, zone }: { bookings: Schemas['Unmade'][]; zone: string }) {
  if (bookings.length === 0) return null
  return (
    <Need title={say.hours.bookingsFall(bookings.length)}>
      <ul className="figures">
        {bookings.map(({ id, start, client }) => (
          <li key={id}>
            {shortDate(wallClock(new Date(start), zone).date)} {clock(new Date(start), zone)},{' '}
            {client || say.hours.client}
          </li>
        ))}
      </ul>
      <p className="mt-1 text-ink-2">{say.hours.theyStayTheyHand}</p>
    </Need>
  )
}

function useReading(text: string): Schemas['DayChangeReading'] | undefined {
  const still = useDebounced(text)
  const asked = useQuery({
    queryKey: keys.tried.differing(still),
    queryFn: () => need(api.POST('/hours/differing/preview', { body: { text: still } })),
    enabled: still !== '',
  })
  // While more is being typed, the last reading would be of something else.
  return still === text ? asked.data : undefined
}

/** Those of each year with the others, where they come next. */
function sorted(changes: Change[]): Change[] {
  const today = new Date().toISOString().slice(0, 10)
  const next = ({ first, last, yearly }: Change) => {
    if (!yearly) return first
    const year = Number(today.slice(0, 4)) + (last.slice(5) < today.slice(5) && last.slice(5) >= first.slice(5) ? 1 : 0)
    return `${year}${first.slice(4)}`
  }
  return [...changes].sort((a, b) => next(a).localeCompare(next(b)) || (a.id ?? 0) - (b.id ?? 0))
}

export function dates({ first, last, yearly }: Change): string {
  const today = new Date().toISOString().slice(0, 10)
  const day = yearly ? dayAndMonth : (date: string) => shortDateInYear(date, today)
  return `${first === last ? day(first) : `${day(first)} – ${day(last)}`}${yearly ? say.hours.everyYear : ''}`
}

export function what({ kind, hours, label }: Change): string {
  const off = `${hours ? say.hours.off(hours) : say.hours.timeOff}${label ? `: ${label}` : ''}`
  return { closed: say.hours.closed, off, instead: say.hours.insteadUsualHours(hours), extra: say.hours.extra(hours) }[
    kind
  ]
}

function inWords(change: Change): string {
  return `${dates(change)}, ${what(change)}`
}
