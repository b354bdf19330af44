import { placeOf, zonesByRegion } from '../time/time'

/** All time zones by region, for a list to choose from; own is in it even if the browser doesn't know it. */
export function ZoneOptions({ own }: { own: string }) {
  return zonesByRegion(own).map(([region, zones]) => (
    <optgroup key={region} label={region}>
      {zones.map((name) => (
        <option key={name} value={name}>
          {placeOf(name)}
        </option>
      ))}
    </optgroup>
  ))
}
