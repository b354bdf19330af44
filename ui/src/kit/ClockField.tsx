import { useState } from 'react'
import { say } from '../say'
import { readClock } from '../time/readClock'
import { minuteText } from '../time/time'
import { TextField } from './kit'

interface Props {
  label: string
  /** In minutes of the day. */
  value: number
  onChange: (minute: number) => void
  /** An end may be midnight, a beginning may not. */
  end?: boolean
}

const step = 15 // minutes, by an arrow key

/** A time of day as it is written everywhere here, whatever the browser's country: read from "9", "9:30" or "2pm"; arrow keys step. */
export function ClockField({ label, value, onChange, end = false }: Props) {
  const [typed, setTyped] = useState<string | null>(null)
  const [unread, setUnread] = useState(false)
  const latest = end ? 1440 : 1439
  const read = (text: string) => {
    const minute = readClock(text)
    return minute !== null && minute <= latest ? minute : null
  }
  return (
    <TextField
      label={label}
      autoComplete="off"
      spellCheck={false}
      problem={unread ? say.kit.noSuchTimeWrite : undefined}
      value={typed ?? minuteText(value)}
      onChange={(event) => {
        setTyped(event.target.value)
        const minute = read(event.target.value)
        if (minute !== null) onChange(minute)
      }}
      onBlur={() => {
        const understood = typed === null || read(typed) !== null
        setUnread(!understood)
        if (understood) setTyped(null)
      }}
      onKeyDown={(event) => {
        const by = { ArrowUp: step, ArrowDown: -step }[event.key]
        if (!by) return
        event.preventDefault()
        setTyped(null)
        setUnread(false)
        onChange(Math.max(0, Math.min(latest, Math.round((value + by) / step) * step)))
      }}
    />
  )
}
