import { clock, longDate } from '../time/time'
import type { Look } from './open'
import { useTexts } from './texts'

const daysListed = 6
const timesListed = 5

/** The second view: the soonest open days with their first times. */
export function Soonest({
  look,
  zone,
  onChoose,
  onDate,
}: {
  look: Look
  zone: string
  onChoose: (start: Date) => void
  onDate: (date: string) => void
}) {
  const t = useTexts()
  const days = [...look.byDate].sort(([a], [b]) => (a < b ? -1 : 1)).slice(0, daysListed)
  return (
    <ul>
      {days.map(([date, starts]) => (
        <li key={date} className="flex flex-wrap items-baseline gap-x-4 gap-y-1 border-t border-rule py-2">
          <button type="button" className="w-52 text-left font-semibold hover:underline" onClick={() => onDate(date)}>
            {longDate(date)}
          </button>
          {starts.slice(0, timesListed).map((start) => (
            <button key={start.getTime()} type="button" className="link figures" onClick={() => onChoose(start)}>
              {clock(start, zone)}
            </button>
          ))}
          {starts.length > timesListed && (
            <span className="text-note text-ink-3">{t.andMore(starts.length - timesListed)}</span>
          )}
        </li>
      ))}
    </ul>
  )
}
