import type { Schemas } from '../api/client'
import { say } from '../say'
import { shortDate } from '../time/time'

/** What an unsaved change does to the open starts of meeting types. */
export function Effects({ effects }: { effects: Schemas['Effect'][] }) {
  if (effects.length === 0) return null
  const several = new Set(effects.map((effect) => effect.host)).size > 1
  return (
    <section aria-label={say.shell.whatChangeDoes} className="mt-5 border-l-3 border-act pl-3 text-note" role="status">
      <p className="font-semibold text-act">{say.shell.openStartsNextWeeks(effects[0]?.weeks)}</p>
      <ul>
        {effects.map((effect) => (
          <li key={`${effect.host} ${effect.type}`} className="grid grid-cols-[1fr_auto] gap-x-3 py-1">
            <span>
              {effect.type}
              {several && `, ${effect.host}`}
            </span>{' '}
            <span className="figures">
              {effect.open} {effect.gained > 0 && <span className="text-act">{say.shell.gained(effect.gained)}</span>}
              {effect.lost > 0 && <span className="text-need">{say.shell.lost(effect.lost)}</span>}
            </span>
            <Days effect={effect} />
          </li>
        ))}
      </ul>
    </section>
  )
}

/** The first days that differ. */
function Days({ effect: { days, gained, lost } }: { effect: Schemas['Effect'] }) {
  const named = days.reduce((sum, day) => sum + day.gained + day.lost, 0)
  return (
    <p className="figures col-span-2 text-small text-ink-2">
      {days.map((day, i) => (
        <span key={day.date}>
          {i > 0 && ' · '}
          {shortDate(day.date)}
          {day.gained > 0 && ` +${day.gained}`}
          {day.lost > 0 && ` −${day.lost}`}
        </span>
      ))}
      {named < gained + lost && say.shell.later}
    </p>
  )
}
