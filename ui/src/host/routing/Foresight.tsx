import type { Schemas } from '../../api/client'
import { DayRibbon } from '../../ribbon/DayRibbon'
import { axisFor } from '../../ribbon/geometry'
import { Ruler } from '../../ribbon/Ribbon'
import { say, told } from '../../say'
import { clock, shortDate, wallClock } from '../../time/time'
import { useMe } from '../queries'

/** What the routing as it stands in the editor will do if nothing else changes. */
export function Foresight({ foresight }: { foresight: Schemas['Foresight'] }) {
  const zone = useMe().data?.person?.zone ?? 'UTC'
  return (
    <>
      <h2>{say.routing.whoGetsNextOnes}</h2>
      <p className="text-note text-ink-2">{say.routing.ifClientsTookSoonest}</p>
      {foresight.next.length === 0 ? (
        <p className="mt-2 text-need">{say.routing.nobodyNoTimeOpen}</p>
      ) : (
        <ol aria-label={say.routing.nextBookings} className="mt-2">
          {foresight.next.map((foretold) => (
            <Foretold key={foretold.start + foretold.hosts.join()} foretold={foretold} zone={zone} />
          ))}
        </ol>
      )}
      <Coverage foresight={foresight} />
      <Crew days={foresight.days} />
    </>
  )
}

function Foretold({ foretold, zone }: { foretold: Schemas['Foretold']; zone: string }) {
  const start = new Date(foretold.start)
  return (
    <li className="grid grid-cols-[8.2rem_1fr] gap-x-3 border-t border-rule py-1 text-note">
      <span className="figures text-ink-2">
        {shortDate(wallClock(start, zone).date)} {clock(start, zone)}
      </span>
      <span>
        <b className="font-semibold">{foretold.hosts.join(', ')}</b>{' '}
        <span className="text-ink-2">{told(foretold.why)}</span>
      </span>
    </li>
  )
}

/** Whether any combination of answers leads nowhere. */
function Coverage({ foresight }: { foresight: Schemas['Foresight'] }) {
  if (foresight.cases < 2 && foresight.dead.length === 0) return null
  return (
    <section aria-labelledby="coverage-head" className="mt-6">
      <h2 id="coverage-head">{say.routing.whereAnswersLead}</h2>
      {foresight.dead.length === 0 ? (
        <p className="text-note text-ink-2">{say.routing.allCombinationsAnswersLead(foresight.cases)}</p>
      ) : (
        <ul className="text-note">
          {foresight.dead.map(({ answers, why }) => (
            <li key={JSON.stringify(answers)} className="border-t border-rule py-1">
              <b className="font-semibold text-need">
                {Object.entries(answers)
                  .map(([name, value]) => `${name} ${value || say.routing.noneThese}`)
                  .join(', ')}
              </b>{' '}
              {told(why)}
            </li>
          ))}
        </ul>
      )}
    </section>
  )
}

/** Who is open when, and what all of them come to. */
function Crew({ days }: { days: Schemas['CrewDay'][] }) {
  const axis = axisFor(
    days.flatMap(({ rows }) => rows.flatMap(({ ribbon }) => [...ribbon.open, ...ribbon.bookings])),
    { from: 8 * 60, to: 18 * 60 },
  )
  return days.map(({ together, rows }) => (
    <section key={together.date} aria-label={say.routing.whoOpen(shortDate(together.date))} className="mt-6">
      <div className="grid grid-cols-[6.5rem_minmax(0,1fr)] items-end gap-x-3">
        <h2 className="text-[17px]!">{shortDate(together.date)}</h2>
        <Ruler axis={axis} every={axis.to - axis.from > 13 * 60 ? 120 : 60} />
        {rows.map(({ person, ribbon }) => (
          <Row key={person} name={person} ribbon={ribbon} axis={axis} />
        ))}
        <Row name={say.routing.offered} ribbon={together} axis={axis} />
      </div>
    </section>
  ))
}

function Row({ name, ribbon, axis }: { name: string; ribbon: Schemas['Ribbon']; axis: { from: number; to: number } }) {
  return (
    <>
      <span className="truncate pb-1 text-note">{name}</span>
      <div className="mb-1 [&_.ribbon]:h-7">
        <DayRibbon day={ribbon} axis={axis} name={name} />
      </div>
    </>
  )
}
