import { say } from '../../say'
import { addDays, shortDate, weekdayLetter } from '../../time/time'

/** The gap before the first day of a week, the same in the ruler and in all rows. */
function gapBefore(date: string, i: number, firstWeekday: number): string {
  return i > 0 && new Date(`${date}T12:00:00Z`).getUTCDay() === firstWeekday ? 'ml-3' : ''
}

interface DaysProps {
  /** Today; thirteen days follow. */
  from: string
  firstWeekday: number
}

/** Whose days stand below each other in the rows. */
export function FortnightRuler({ from, firstWeekday }: DaysProps) {
  return (
    <div aria-hidden="true" className="flex items-end text-small text-ink-2">
      {days(from).map((date, i) => {
        const gap = gapBefore(date, i, firstWeekday)
        // Two dates side by side would run into each other.
        const dated =
          gap !== '' ||
          (i === 0 &&
            !days(from)
              .slice(1, 4)
              .some((d) => gapBefore(d, 1, firstWeekday)))
        return (
          <span key={date} className={`w-0 flex-1 text-center ${gap}`}>
            {dated && <span className="block text-left whitespace-nowrap">{shortDate(date).replace(/^\S+ /, '')}</span>}
            {weekdayLetter(date)}
          </span>
        )
      })}
    </div>
  )
}

function days(from: string): string[] {
  return Array.from({ length: 14 }, (_, i) => addDays(from, i))
}

/** How many starts are open on each of 14 days, the most of them as high as the row. */
export function Fortnight({ counts, from, firstWeekday }: DaysProps & { counts: number[] }) {
  const most = Math.max(1, ...counts)
  const total = counts.reduce((sum, count) => sum + count, 0)
  const fullest = addDays(from, counts.indexOf(most))
  return (
    <div role="img" aria-label={say.types.openNext14Days(total, shortDate(fullest))} className="flex h-8.5 items-end">
      {days(from).map((date, i) => {
        const count = counts[i] ?? 0
        return (
          <span
            key={date}
            title={say.types.openOn(shortDate(date), count)}
            className={`flex h-full w-0 flex-1 items-end border-b border-ink-3 px-0.5 ${gapBefore(date, i, firstWeekday)}`}
          >
            {count > 0 && (
              <span
                className="w-full border-t-3 border-act bg-bar"
                style={{ height: `${Math.max(12, (count / most) * 100)}%` }}
              />
            )}
          </span>
        )
      })}
    </div>
  )
}
