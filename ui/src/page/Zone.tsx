import { useMemo } from 'react'
import { ZoneOptions } from '../kit/ZoneOptions'
import { clock, offsetOf, ownZone } from '../time/time'
import { useTexts } from './texts'

/** The client's zone: recognised, and changeable. */
export function Zone({ zone, onChange }: { zone: string; onChange: (zone: string) => void }) {
  const options = useMemo(() => <ZoneOptions own={ownZone()} />, [])
  const t = useTexts()
  const now = new Date()
  return (
    <label className="text-note text-ink-2">
      {t.timesIn}{' '}
      <select
        className="max-w-44 cursor-pointer rounded-(--radius) border-0 border-b border-dotted border-act bg-ground text-act"
        value={zone}
        aria-label={t.yourZone}
        onChange={(event) => onChange(event.target.value)}
      >
        {options}
      </select>
      <span className="hidden sm:inline">
        , {offsetOf(now, zone)} · {t.now} {clock(now, zone)}
      </span>
    </label>
  )
}
