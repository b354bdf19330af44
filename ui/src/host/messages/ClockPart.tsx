import { useState } from 'react'
import { readClock } from '../../time/readClock'
import { fieldClock, minuteText } from '../../time/time'
import { partLook } from '../rules/parts'

interface Props {
  label: string
  value: string
  changed: boolean
  onChange: (value: string) => void
}

/** A time of day in a sentence, read from "9", "9:30" or "2pm". */
export function ClockPart({ label, value, changed, onChange }: Props) {
  const [typed, setTyped] = useState(() => minuteText(readClock(value) ?? 0))
  const minute = readClock(typed)
  return (
    <input
      aria-label={label}
      aria-invalid={minute === null || undefined}
      autoComplete="off"
      spellCheck={false}
      className={partLook(changed, minute === null)}
      value={typed}
      onChange={(event) => {
        setTyped(event.target.value)
        const read = readClock(event.target.value)
        // What can't be read is refused where it stands, instead of a time that nobody chose.
        onChange(read === null ? event.target.value : fieldClock(read))
      }}
      onBlur={() => minute !== null && setTyped(minuteText(minute))}
    />
  )
}
