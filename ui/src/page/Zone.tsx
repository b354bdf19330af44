import { useMemo } from 'react'
import { clock, offsetOf, ownZone, placeOf, zonesByRegion } from '../time/time'

/** The client's zone: recognised, and changeable. */
export function Zone({ zone, onChange }: { zone: string; onChange: (zone: string) => void }) {
  const regions = useMemo(() => zonesByRegion(ownZone()), [])
  const now = new Date()
  return (
    <label className="text-note text-ink-2">
      Times in{' '}
      <select
        className="max-w-44 cursor-pointer rounded-(--radius) border-0 border-b border-dotted border-act bg-ground text-act"
        value={zone}
        aria-label="Your time zone"
        onChange={(event) => onChange(event.target.value)}
      >
        {regions.map(([region, zones]) => (
          <optgroup key={region} label={region}>
            {zones.map((name) => (
              <option key={name} value={name}>
                {placeOf(name)}
              </option>
            ))}
          </optgroup>
        ))}
      </select>
      <span className="hidden sm:inline">
        , {offsetOf(now, zone)} · now {clock(now, zone)}
      </span>
    </label>
  )
}
