import { type InputHTMLAttributes, useId, useState } from 'react'
import { say } from '../say'
import { readDate } from '../time/readDate'
import { addDays, ownZone, shortDateInYear, wallClock } from '../time/time'
import { lineLook } from './kit'

interface DateInputProps extends Omit<InputHTMLAttributes<HTMLInputElement>, 'value' | 'onChange'> {
  /** 2026-12-04, or empty. */
  value: string
  onChange: (date: string) => void
  onProblem?: (problem: boolean) => void
}

/** A day as it is written everywhere here, whatever the browser's country: read from "4 dec", "fri" or "2026-12-04"; arrow keys step. */
export function DateInput({ value, onChange, onProblem, onBlur, onKeyDown, ...props }: DateInputProps) {
  const [typed, setTyped] = useState<string | null>(null)
  const today = wallClock(new Date(), ownZone()).date
  const step = (by: number) => {
    setTyped(null)
    onProblem?.(false)
    onChange(addDays(value || today, by))
  }
  return (
    <input
      type="text"
      autoComplete="off"
      spellCheck={false}
      {...props}
      value={typed ?? (value && shortDateInYear(value, today))}
      onChange={(event) => {
        const text = event.target.value
        setTyped(text)
        const date = readDate(text, today, say.kit.nearDays)
        if (date || text === '') onChange(date ?? '')
      }}
      onBlur={(event) => {
        onProblem?.(typed !== null && typed !== '' && readDate(typed, today, say.kit.nearDays) === null)
        if (typed !== null && (typed === '' || readDate(typed, today, say.kit.nearDays))) setTyped(null)
        onBlur?.(event)
      }}
      onKeyDown={(event) => {
        const by = { ArrowUp: 1, ArrowDown: -1 }[event.key]
        if (by) {
          event.preventDefault()
          step(by)
        }
        onKeyDown?.(event)
      }}
    />
  )
}

interface DateFieldProps extends DateInputProps {
  label: string
  problem?: string | undefined
}

/** The same as a field of a form. */
export function DateField({ label, problem, ...props }: DateFieldProps) {
  const id = useId()
  const [unread, setUnread] = useState(false)
  const wrong = problem ?? (unread ? say.kit.noSuchDayWrite : undefined)
  return (
    <div>
      <label htmlFor={id} className="block text-note text-ink-2">
        {label}
      </label>
      <DateInput
        id={id}
        className={lineLook(wrong)}
        aria-invalid={wrong ? true : undefined}
        aria-describedby={wrong ? `${id}-note` : undefined}
        onProblem={setUnread}
        {...props}
      />
      {wrong && (
        <p id={`${id}-note`} className="mt-1 text-note text-need">
          {wrong}
        </p>
      )}
    </div>
  )
}
