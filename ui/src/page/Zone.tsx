import { useEffect, useState } from 'react'
import { ZoneOptions } from '../kit/ZoneOptions'
import { clock, offsetOf, ownZone, placeOf } from '../time/time'
import { useTexts } from './texts'

const afterwards = 1000 // milliseconds

/** The client's zone: recognised, and changeable. */
export function Zone({ zone, onChange }: { zone: string; onChange: (zone: string) => void }) {
  // The list is long: it comes once the page has shown what matters more.
  const [all, setAll] = useState(false)
  useEffect(() => {
    const timer = setTimeout(() => setAll(true), afterwards)
    return () => clearTimeout(timer)
  }, [])
  const t = useTexts()
  const now = new Date()
  return (
    <label className="shrink-0 text-note text-ink-2 max-sm:w-32">
      {t.timesIn}{' '}
      <select
        className="w-32 cursor-pointer sm:w-44 rounded-(--radius) border-0 border-b border-dotted border-act bg-ground text-act"
        value={zone}
        aria-label={t.yourZone}
        onChange={(event) => onChange(event.target.value)}
      >
        {all ? <ZoneOptions own={ownZone()} /> : <option value={zone}>{placeOf(zone)}</option>}
      </select>
      <span className="hidden sm:inline">
        , {offsetOf(now, zone)} · {t.now} {clock(now, zone)}
      </span>
    </label>
  )
}
