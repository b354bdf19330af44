import { useQuery } from '@tanstack/react-query'
import { type MouseEvent, useState } from 'react'
import { api, need, type Schemas } from '../api/client'
import { keys } from '../api/keys'
import { ClockField } from '../kit/ClockField'
import { DateField } from '../kit/DateField'
import { Button } from '../kit/kit'
import { snap } from '../ribbon/editing'
import { axisFor } from '../ribbon/geometry'
import { Ground, Mark, Ruler, Ticks } from '../ribbon/Ribbon'
import { say } from '../say'
import { addDays, minuteText, shortDate } from '../time/time'

export type Picked = Schemas['HandPicked']

interface Props {
  /** The first of the days shown. */
  from: string
  minutes: number
  /** Whose ribbons they are. */
  person: number
  /** Open starts by date, to pick near. */
  open: Map<string, number[]>
  picked: Picked[]
  onPick: (picked: Picked[]) => void
  most: number
}

const daysShown = 7
const near = 12 // minutes: a press this close to an open start means it

/** Times picked by hand on the ribbons of a week: by a press, or by entering a day and a time. */
export function PickTimes(props: Props) {
  const { minutes, picked, onPick, most } = props
  const [from, setFrom] = useState(props.from)
  const days = Array.from({ length: daysShown }, (_, i) => addDays(from, i))
  const board = useQuery({
    queryKey: keys.onBoard('to pick', props.person, from),
    queryFn: () => need(api.GET('/board', { params: { query: { from, days: daysShown, person: props.person } } })),
  })
  const ribbons = new Map(board.data?.rows.map((row) => [row.ribbon.date, row.ribbon]))
  const axis = axisFor(
    [...ribbons.values()].flatMap((r) => [...r.open, ...r.bookings]),
    { from: 8 * 60, to: 18 * 60 },
  )
  const isPicked = (p: Picked) => picked.some((q) => q.date === p.date && q.minute === p.minute)
  const toggle = (p: Picked) => {
    if (isPicked(p)) onPick(picked.filter((q) => q.date !== p.date || q.minute !== p.minute))
    else if (picked.length < most) onPick([...picked, p].sort((a, b) => (when(a) < when(b) ? -1 : 1)))
  }
  const press = (date: string) => (event: MouseEvent) => {
    const box = event.currentTarget.getBoundingClientRect()
    const at = axis.from + ((event.clientX - box.left) / box.width) * (axis.to - axis.from)
    const under = picked.find((p) => p.date === date && p.minute <= at && at < p.minute + minutes)
    const open = props.open.get(date)?.find((m) => Math.abs(m - at) <= near)
    toggle(under ?? { date, minute: open ?? snap(at) })
  }
  return (
    <div>
      <p className="flex justify-between text-note">
        <button type="button" className="link" onClick={() => setFrom(addDays(from, -daysShown))}>
          {say.shell.earlierWeek}
        </button>
        <button type="button" className="link" onClick={() => setFrom(addDays(from, daysShown))}>
          {say.shell.laterWeek}
        </button>
      </p>
      <div className="grid grid-cols-[5.5rem_1fr] items-center gap-x-2">
        <span />
        <Ruler axis={axis} every={120} />
        {days.map((date) => {
          const own = picked.filter((p) => p.date === date).map((p) => p.minute)
          const ribbon = ribbons.get(date)
          return (
            <div key={date} className="contents">
              <span className="text-note text-ink-2">{shortDate(date)}</span>
              {/* biome-ignore lint/a11y/noStaticElementInteractions: the fields below do the same by keys */}
              {/* biome-ignore lint/a11y/useKeyWithClickEvents: see above */}
              <div className="cursor-pointer [&_.ribbon]:h-8" onClick={press(date)}>
                <Ground
                  axis={axis}
                  label={say.shell.picked(shortDate(date), own.map(minuteText).join(', ') || say.shell.nothing)}
                >
                  {ribbon?.open.map((s) => (
                    <Mark key={s.from} kind="open" stretch={s} axis={axis} />
                  ))}
                  {ribbon?.busy.map((s) => (
                    <Mark key={`${s.from} ${s.to}`} kind="busy" stretch={s} axis={axis} />
                  ))}
                  {ribbon?.bookings.map((s) => (
                    <Mark key={s.id} kind="booked" stretch={s} axis={axis} />
                  ))}
                  <Ticks minutes={props.open.get(date) ?? []} axis={axis} />
                  {own.map((minute) => (
                    <Mark key={minute} kind="chosen" stretch={{ from: minute, to: minute + minutes }} axis={axis} />
                  ))}
                </Ground>
              </div>
            </div>
          )
        })}
      </div>
      <Typed from={from} onAdd={toggle} />
      <ul aria-label={say.shell.pickedTimes} className="mt-2 flex flex-wrap gap-x-4 gap-y-1 text-note">
        {picked.map((p) => (
          <li key={when(p)} className="figures">
            {shortDate(p.date)} {minuteText(p.minute)}{' '}
            <button
              type="button"
              className="link"
              aria-label={say.shell.takeTimeOut(shortDate(p.date), minuteText(p.minute))}
              onClick={() => toggle(p)}
            >
              {say.shell.takeOut}
            </button>
          </li>
        ))}
      </ul>
    </div>
  )
}

function when({ date, minute }: Picked): string {
  return `${date} ${minuteText(minute)}`
}

/** The same by keys: a day and a time. */
function Typed({ from, onAdd }: { from: string; onAdd: (picked: Picked) => void }) {
  const [date, setDate] = useState(from)
  const [minute, setMinute] = useState(600)
  return (
    <div className="mt-2 flex flex-wrap items-end gap-x-4 gap-y-2">
      <DateField label={say.shell.day} value={date} onChange={setDate} />
      <ClockField label={say.shell.time} value={minute} onChange={setMinute} />
      <Button kind="plain" onClick={() => onAdd({ date, minute })}>
        {say.shell.addTime}
      </Button>
    </div>
  )
}
