import type { Schemas } from '../../api/client'
import { useGo } from '../../edit/unsaved'
import { type Axis, axisFor } from '../../ribbon/geometry'
import { type Day, DayRibbon, Ruler } from '../../ribbon/Ribbon'
import { dayAndMonth, shortDate } from '../../time/time'
import { Bookings } from '../Bookings'
import { reasonsPath } from './Reasons'

interface Props {
  preview: Schemas['TypePreview'] | undefined
  saved: Schemas['MeetingType'] | undefined
  zone: string
  /** Whose days are shown: one of the hosts, or 0 for all as they are routed. */
  onHost?: (host: number) => void
}

/** The coming days as the rules stand now, with what the unsaved change adds and takes. */
export function Consequence({ preview, saved, zone, onHost }: Props) {
  if (!preview) return <p className="pt-2 text-ink-3">Working it out …</p>
  if (preview.days.length === 0) {
    return (
      <p className="pt-2 text-ink-2">
        {Object.keys(preview.wrong).length > 0
          ? 'As soon as the times make sense, the coming days stand here.'
          : nobodyWorks(preview.crew)}
      </p>
    )
  }
  const axis = axisFor(
    preview.days.flatMap((day) => day.open),
    { from: 8 * 60, to: 18 * 60 },
  )
  return (
    <section aria-label="What this does to the coming days">
      <h2 className="pt-1">What this does to the coming days</h2>
      <Whose crew={preview.crew} onHost={onHost} />
      <Totals preview={preview} saved={saved !== undefined} />
      <div className="grid grid-cols-[5.4rem_minmax(0,1fr)_4rem] items-end gap-x-2">
        <span />
        <Ruler axis={axis} />
        <span />
        {preview.days.map((day) => (
          <DayRow key={day.date} day={day} axis={axis} type={saved?.id} host={preview.crew.host} />
        ))}
      </div>
      <Key preview={preview} />
      <Weeks weeks={preview.weeks} />
      <Bookings
        title={`${preview.outside.length} of the coming bookings would lie outside the rules; they stay`}
        bookings={preview.outside}
        zone={zone}
      />
      <Bookings
        title={`${preview.unmade.length} of the last 90 days’ ${preview.past} bookings could not have been made`}
        bookings={preview.unmade}
        zone={zone}
      />
    </section>
  )
}

function nobodyWorks({ hosts }: Schemas['Crew']): string {
  if (hosts.length === 0) return 'Nobody who takes bookings hosts it. Choose somebody under “Hosts”.'
  return `${listed(hosts.map(({ name }) => name))} ${hosts.length > 1 ? 'have' : 'has'} no open hours in the weeks ahead. Hours are set under Hours.`
}

function listed(names: string[]): string {
  return new Intl.ListFormat('en-GB').format(names)
}

/** Whose open starts these are. */
function Whose({ crew: { hosts, host, way }, onHost }: { crew: Schemas['Crew'] } & Pick<Props, 'onHost'>) {
  if (hosts.length < 2 || !onHost) return <p className="text-note text-ink-2">Hosted by {hosts[0]?.name ?? 'nobody'}</p>
  const all = way === 'together' ? 'all of them together' : way === 'some' ? 'all as they come together' : 'any of them'
  return (
    <p className="text-note text-ink-2">
      Open starts of{' '}
      <select
        aria-label="Whose open starts"
        className="border-0 border-b border-dotted border-act bg-ground text-act"
        value={host}
        onChange={(event) => onHost(Number(event.target.value))}
      >
        <option value={0}>{all}</option>
        {hosts.map(({ id, name }) => (
          <option key={id} value={id}>
            {name} alone
          </option>
        ))}
      </select>{' '}
      · {listed(hosts.map(({ name }) => name))}
    </p>
  )
}

function Totals({ preview, saved }: { preview: Schemas['TypePreview']; saved: boolean }) {
  const { open, gained, lost } = preview
  const big = 'figures font-head text-[26px]'
  return (
    <p className="mt-1 mb-2 flex flex-wrap items-baseline gap-x-6 text-note text-ink-2" role="status">
      <span>
        <span className={`${big} ${open === 0 ? 'text-need' : ''}`}>{open}</span> open starts in 8 weeks
        {preview.why && <span className="text-need">: mostly blocked by {preview.why.toLowerCase()}</span>}
      </span>
      {saved && gained > 0 && (
        <span>
          <span className={`${big} text-act`}>+{gained}</span> gained
        </span>
      )}
      {saved && lost > 0 && (
        <span>
          <span className={`${big} text-need`}>−{lost}</span> lost
        </span>
      )}
    </p>
  )
}

/** A day; its date leads to the reasons, which are those of the saved rules. */
function DayRow({ day, axis, type, host }: { day: Day; axis: Axis; type: number | undefined; host: number }) {
  const go = useGo()
  const difference = day.gained.length - day.lost.length
  return (
    <>
      {type ? (
        <button
          type="button"
          className="pb-2 text-left text-note hover:underline"
          title="Why are times open or not? Key e"
          aria-label={`Why? ${shortDate(day.date)}`}
          onClick={() => go(reasonsPath(type, day.date, { host }))}
        >
          {shortDate(day.date)}
        </button>
      ) : (
        <span className="pb-2 text-note">{shortDate(day.date)}</span>
      )}
      <DayRibbon day={day} axis={axis} name={shortDate(day.date)} />
      <span className="figures pb-2 text-right text-note">
        {day.kept.length + day.gained.length}{' '}
        {difference !== 0 && (
          <span className={difference > 0 ? 'text-act' : 'text-need'}>
            {difference > 0 ? `+${difference}` : `−${-difference}`}
          </span>
        )}
      </span>
    </>
  )
}

/** The totals by week. */
function Weeks({ weeks }: { weeks: Schemas['WeekTotal'][] }) {
  return (
    <table className="figures mt-4 w-full text-note">
      <caption className="text-left text-ink-2">Open starts by week</caption>
      <tbody>
        <tr>
          {weeks.map((week) => (
            <th key={week.first} scope="col" className="border-b border-rule text-left font-normal text-ink-2">
              {dayAndMonth(week.first)}
            </th>
          ))}
        </tr>
        <tr>
          {weeks.map((week) => (
            <td key={week.first} className="pt-0.5">
              {week.open}
              {week.gained > 0 && <span className="text-act"> +{week.gained}</span>}
              {week.lost > 0 && <span className="text-need"> −{week.lost}</span>}
            </td>
          ))}
        </tr>
      </tbody>
    </table>
  )
}

/** The marks in use, explained. */
function Key({ preview }: { preview: Schemas['TypePreview'] }) {
  const any = (of: (day: Day) => unknown[]) => preview.days.some((day) => of(day).length > 0)
  const entries: [kind: string, name: string, shown: boolean][] = [
    ['open', 'open hours', true],
    ['booked', 'booked', any((d) => d.bookings)],
    ['buffer top-0!', 'buffer', any((d) => d.bookings)],
    ['busy', 'busy elsewhere', any((d) => d.busy)],
    ['soon mask-none!', 'too soon', any((d) => d.tooSoon)],
    ['outside', 'outside the window', any((d) => d.outside)],
  ]
  return (
    <p className="mt-4 flex flex-wrap gap-x-4 gap-y-1 text-small text-ink-2">
      {entries
        .filter(([, , shown]) => shown)
        .map(([kind, name]) => (
          <span key={name} className="flex items-center gap-1.5">
            <span className="relative inline-block h-3.5 w-6">
              <span className={`mark p-0! mark-${kind} inset-x-0`} />
            </span>
            {name}
          </span>
        ))}
      <TickKey name="open start" kind="" />
      {any((d) => d.gained) && <TickKey name="gained" kind="tick-gained" />}
      {any((d) => d.lost) && <TickKey name="lost" kind="tick-lost" />}
    </p>
  )
}

function TickKey({ name, kind }: { name: string; kind: string }) {
  return (
    <span className="flex items-center gap-1.5">
      <span className="relative inline-block h-4 w-3">
        <span className={`tick ${kind} left-1/2 h-3.5!`} />
      </span>
      {name}
    </span>
  )
}
