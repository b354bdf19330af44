import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { say, toldAll } from '../../say'
import { shortDate } from '../../time/time'
import { useDebounced } from '../useDebounced'

interface Props {
  times: Schemas['HandTimes']
  without: string[]
  /** A recurrence rule, or nothing for once. */
  onRepeat: (rule: string) => void
  onWithout: (dates: string[]) => void
}

const rhythms = {
  once: '',
  daily: 'FREQ=DAILY',
  weekdays: 'FREQ=DAILY;BYDAY=MO,TU,WE,TH,FR',
  weekly: 'FREQ=WEEKLY',
  twoWeeks: 'FREQ=WEEKLY;INTERVAL=2',
  fourWeeks: 'FREQ=WEEKLY;INTERVAL=4',
  monthly: 'FREQ=MONTHLY',
  rule: null,
} as const

const field = 'border-0 border-b border-ink-2 bg-sheet px-0.5 py-1 text-base text-ink'

/** Whether it comes again, and on which dates: each is checked before anything is booked. */
export function Repeat({ times, without, onRepeat, onWithout }: Props) {
  const [rhythm, setRhythm] = useState<keyof typeof rhythms>('once')
  const [count, setCount] = useState(4)
  const [rule, setRule] = useState('FREQ=MONTHLY;BYDAY=1TU;COUNT=6')
  const ruled = (next: keyof typeof rhythms, count: number, rule: string) => {
    const base = rhythms[next]
    onRepeat(base === null ? rule : base && `${base};COUNT=${count}`)
  }
  return (
    <div className="text-note text-ink-2">
      <select
        aria-label={say.board.doesComeAgain}
        className={field}
        value={rhythm}
        onChange={(event) => {
          const next = event.target.value as keyof typeof rhythms
          setRhythm(next)
          ruled(next, count, rule)
        }}
      >
        {Object.entries(say.board.rhythms).map(([value, words]) => (
          <option key={value} value={value}>
            {words}
          </option>
        ))}
      </select>
      {rhythms[rhythm] && (
        <>
          {', '}
          <input
            type="number"
            aria-label={say.board.howOftenAll}
            className={`number w-14 ${field}`}
            min={2}
            max={60}
            value={count}
            onChange={(event) => {
              const next = Math.round(event.target.valueAsNumber) || 2
              setCount(next)
              ruled(rhythm, next, rule)
            }}
          />{' '}
          {say.board.timesAll}
        </>
      )}
      {rhythms[rhythm] === null && (
        <input
          aria-label={say.board.recurrenceRuleRrule}
          className={`figures mt-1 w-full ${field}`}
          spellCheck={false}
          value={rule}
          onChange={(event) => {
            setRule(event.target.value)
            ruled(rhythm, count, event.target.value)
          }}
        />
      )}
      {rhythm !== 'once' && <Dates times={times} without={without} onWithout={onWithout} />}
    </div>
  )
}

/** All dates that would be booked; those that are not open say why, and each can be left out. */
function Dates({ times, without, onWithout }: Omit<Props, 'onRepeat'>) {
  const asked = useDebounced(JSON.stringify(times), 200)
  const checked = useQuery<Schemas['HandTime'][], Refusal>({
    queryKey: keys.onBoard('check', asked),
    queryFn: () => need(api.POST('/host-bookings/check', { body: JSON.parse(asked) })),
  })
  if (checked.error) {
    const { repeat, date } = checked.error.fields
    return (
      <p role="alert" className="mt-1 text-need">
        {repeat ?? date ?? checked.error.message}
      </p>
    )
  }
  const list = checked.data ?? []
  const closed = list.filter((t) => !t.open && !without.includes(t.date)).map((t) => t.date)
  const toggle = (date: string, on: boolean) => onWithout(on ? without.filter((d) => d !== date) : [...without, date])
  return (
    <>
      <ul className="mt-2 max-h-44 overflow-y-auto border-y border-rule py-1" aria-label={say.board.dates}>
        {list.map((t) => (
          <li key={t.date + t.clock}>
            <label className="flex items-baseline gap-1.5">
              <input
                type="checkbox"
                className="accent-act"
                checked={!without.includes(t.date)}
                onChange={(event) => toggle(t.date, event.target.checked)}
              />
              <span className="figures whitespace-nowrap text-ink">
                {shortDate(t.date)} {t.clock}
              </span>
              {!t.open && <span className="text-need">{toldAll(t.why)}</span>}
            </label>
          </li>
        ))}
      </ul>
      {closed.length > 0 && (
        <button type="button" className="link mt-1" onClick={() => onWithout([...without, ...closed])}>
          {say.board.leaveOutNotOpen(closed.length)}
        </button>
      )}
    </>
  )
}
