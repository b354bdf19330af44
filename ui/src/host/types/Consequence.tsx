import type { Schemas } from '../../api/client'
import { useGo } from '../../edit/unsaved'
import { type Day, DayRibbon } from '../../ribbon/DayRibbon'
import { type Axis, axisFor } from '../../ribbon/geometry'
import { Ruler } from '../../ribbon/Ribbon'
import { say, spoken, told } from '../../say'
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
  if (!preview) return <p className="pt-2 text-ink-3">{say.types.workingOut}</p>
  if (preview.days.length === 0) {
    return (
      <p className="pt-2 text-ink-2">
        {Object.keys(preview.wrong).length > 0 ? say.types.soonTimesMakeSense : nobodyWorks(preview.crew)}
      </p>
    )
  }
  const axis = axisFor(
    preview.days.flatMap((day) => day.open),
    { from: 8 * 60, to: 18 * 60 },
  )
  return (
    <section aria-label={say.types.whatDoesComingDays}>
      <h2 className="pt-1">{say.types.whatDoesComingDays}</h2>
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
        title={say.types.comingBookingsWouldLie(preview.outside.length)}
        bookings={preview.outside}
        zone={zone}
      />
      <Bookings
        title={say.types.last90DaysBookings(preview.unmade.length, preview.past)}
        bookings={preview.unmade}
        zone={zone}
      />
    </section>
  )
}

function nobodyWorks({ hosts }: Schemas['Crew']): string {
  if (hosts.length === 0) return say.types.nobodyWhoTakesBookings
  return say.types.noOpenHoursWeeks(listed(hosts.map(({ name }) => name)), hosts.length > 1)
}

function listed(names: string[]): string {
  return new Intl.ListFormat(spoken === 'en' ? 'en-GB' : spoken).format(names)
}

/** Whose open starts these are. */
function Whose({ crew: { hosts, host, mode }, onHost }: { crew: Schemas['Crew'] } & Pick<Props, 'onHost'>) {
  if (hosts.length < 2 || !onHost)
    return (
      <p className="text-note text-ink-2">{hosts[0] ? say.types.hostedBy(hosts[0].name) : say.types.hostedNobody}</p>
    )
  const all =
    mode === 'together'
      ? say.types.allThemTogether
      : mode === 'some'
        ? say.types.allTheyComeTogether
        : say.types.anyThem
  return (
    <p className="text-note text-ink-2">
      {say.types.openStartsOf}{' '}
      <select
        aria-label={say.types.whoseOpenStarts}
        className="border-0 border-b border-dotted border-act bg-ground text-act"
        value={host}
        onChange={(event) => onHost(Number(event.target.value))}
      >
        <option value={0}>{all}</option>
        {hosts.map(({ id, name }) => (
          <option key={id} value={id}>
            {say.types.alone(name)}
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
        {say.types.openStarts8Weeks(<span className={`${big} ${open === 0 ? 'text-need' : ''}`}>{open}</span>)}
        {preview.why && <span className="text-need">{say.types.mostlyBlocked(told(preview.why))}</span>}
      </span>
      {saved && gained > 0 && <span>{say.types.gained(<span className={`${big} text-act`}>+{gained}</span>)}</span>}
      {saved && lost > 0 && <span>{say.types.lost(<span className={`${big} text-need`}>−{lost}</span>)}</span>}
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
          title={say.types.whyTimesOpenNot}
          aria-label={say.types.why(shortDate(day.date))}
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
      <caption className="text-left text-ink-2">{say.types.openStartsWeek}</caption>
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
    ['open', say.types.openHours, true],
    ['booked', say.types.booked, any((d) => d.bookings)],
    ['buffer top-0!', say.types.buffer, any((d) => d.bookings)],
    ['busy', say.types.busyElsewhere, any((d) => d.busy)],
    ['soon mask-none!', say.types.tooSoon, any((d) => d.tooSoon)],
    ['outside', say.types.outsideWindow, any((d) => d.outside)],
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
      <TickKey name={say.types.openStart} kind="" />
      {any((d) => d.gained) && <TickKey name={say.types.tickGained} kind="tick-gained" />}
      {any((d) => d.lost) && <TickKey name={say.types.tickLost} kind="tick-lost" />}
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
