import { useMutation } from '@tanstack/react-query'
import { type ChangeEvent, useRef } from 'react'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { Button } from '../../kit/kit'
import { say, told } from '../../say'
import { weekdaysShort } from '../../time/time'
import { useHoursChange } from '../queries'
import { dates, what } from './Differing'

const longestList = 12

/** Hours, or days off such as public holidays, from an iCalendar file; and one's own hours as such a file. */
export function Files() {
  const chosen = useRef<HTMLInputElement>(null)
  const text = useRef('')
  const read = useMutation<Schemas['FileReading'], Refusal, string>({
    mutationFn: (content) => need(api.POST('/hours/file/preview', { body: { text: content } })),
  })
  const take = useHoursChange(() => need(api.POST('/hours/file', { body: { text: text.current } })))
  const done = () => {
    read.reset()
    take.reset()
    if (chosen.current) chosen.current.value = ''
  }
  const choose = async (event: ChangeEvent<HTMLInputElement>) => {
    const file = event.target.files?.[0]
    if (!file) return
    text.current = await file.text()
    read.mutate(text.current)
  }
  const problem = read.error?.fields.file ?? read.error?.message ?? take.error?.message
  return (
    <section aria-labelledby="files-head" className="mt-7">
      <h2 id="files-head">{say.hours.calendarFiles}</h2>
      <p className="mt-1 text-note text-ink-2">
        <label className="link cursor-pointer focus-within:outline-2">
          {say.hours.readHoursPublicHolidays}
          <input ref={chosen} type="file" accept=".ics,text/calendar" className="sr-only" onChange={choose} />
        </label>{' '}
        ·{' '}
        <a href="/api/hours/availability.ics" download="hours.ics">
          {say.hours.saveYourHoursComing}
        </a>
      </p>
      {problem && (
        <p role="alert" className="mt-1 text-note text-need">
          {problem}
        </p>
      )}
      {read.data && (
        <Reading
          reading={read.data}
          busy={take.isPending}
          onTake={() => take.mutate(undefined, { onSuccess: done })}
          onDrop={done}
        />
      )}
    </section>
  )
}

function Reading({
  reading,
  busy,
  onTake,
  onDrop,
}: {
  reading: Schemas['FileReading']
  busy: boolean
  onTake: () => void
  onDrop: () => void
}) {
  const { kind, week, changes, troubles } = reading
  const count = changes.length
  const nothing = kind === 'days-off' && count === 0
  return (
    <div className="mt-3 border-t-3 border-act bg-sheet px-4 py-3 text-note" role="status">
      {kind === 'hours' ? (
        <p>
          {say.hours.weekRead(
            week.map((day, i) => `${weekdaysShort()[i]} ${day === 'closed' ? say.hours.closed : day}`).join(', '),
          )}
          {count > 0 && say.hours.and(count)}.
        </p>
      ) : (
        <p>{nothing ? say.hours.allDaysTakenOff : say.hours.takeOff(count)}</p>
      )}
      <ul className="mt-1 text-ink-2">
        {changes.slice(0, longestList).map((change) => (
          <li key={`${change.first} ${change.label}`}>
            {dates(change)} {change.first.slice(0, 4)}, {what(change)}
          </li>
        ))}
        {count > longestList && <li>{say.hours.andMore(count - longestList)}</li>}
        {troubles.map((trouble) => (
          <li key={trouble.sentence} className="text-need">
            {say.hours.leftOut(told(trouble))}
          </li>
        ))}
      </ul>
      <div className="mt-3 flex gap-3">
        {!nothing && (
          <Button onClick={onTake} disabled={busy}>
            {kind === 'hours' ? say.hours.workTheseHours : say.hours.takeTheseOff(count)}
          </Button>
        )}
        <Button kind="plain" onClick={onDrop}>
          {say.hours.leaveFile}
        </Button>
      </div>
    </div>
  )
}
