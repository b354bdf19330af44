import type { Schemas } from '../../api/client'
import { useGo } from '../../edit/unsaved'
import { DayRibbon } from '../../ribbon/DayRibbon'
import { type Axis, axisFor } from '../../ribbon/geometry'
import { Ruler } from '../../ribbon/Ribbon'
import { say, told } from '../../say'
import { shortDate } from '../../time/time'
import { Bookings } from '../Bookings'
import { Effects } from '../Effects'
import { useTypes } from '../queries'
import { reasonsPath } from '../types/Reasons'
import { useKey } from '../useKey'

/** The coming days as they result, and what the unsaved change does to the meeting types. */
export function Next({ view }: { view: Schemas['HoursView'] }) {
  const go = useGo()
  const type = useTypes().data?.[0]
  const first = view.next[0]
  useKey('e', () => type && first && go(reasonsPath(type.id, first.date)))
  const axis = axisFor(
    view.next.flatMap((day) => day.open),
    { from: 8 * 60, to: 18 * 60 },
  )
  if (view.next.length === 0) return <p className="pt-2 text-ink-2">{say.hours.soonEveryDayCan}</p>
  return (
    <>
      <h2 className="pt-1 pb-2">{view.whose ? say.hours.nextTwoWeeksOf(view.whose) : say.hours.nextTwoWeeks}</h2>
      <div className="grid grid-cols-[5.2rem_1fr_6.2rem] items-end gap-x-2 text-note [&_.ribbon]:h-7.5">
        <span />
        <Ruler axis={axis} every={180} />
        <span />
        {view.next.map((day) => (
          <NextDay key={day.date} day={day} axis={axis} type={type} />
        ))}
      </div>
      <Effects effects={view.effects} />
      <Bookings
        title={say.hours.comingBookingsWouldLie(view.outside.length)}
        bookings={view.outside}
        zone={view.zone}
      />
    </>
  )
}

/** A day as it results; its date leads to the reasons, for the first meeting type. */
function NextDay({
  day,
  axis,
  type,
}: {
  day: Schemas['Ribbon']
  axis: Axis
  type: Schemas['MeetingType'] | undefined
}) {
  const go = useGo()
  return (
    <>
      {type ? (
        <button
          type="button"
          className="figures pb-1 text-left hover:underline"
          title={say.hours.whyTimesOpenNot(type.name)}
          aria-label={say.hours.why(shortDate(day.date))}
          onClick={() => go(reasonsPath(type.id, day.date))}
        >
          {shortDate(day.date)}
        </button>
      ) : (
        <span className="figures pb-1">{shortDate(day.date)}</span>
      )}
      <DayRibbon day={day} axis={axis} name={shortDate(day.date)} />
      <span
        className={`pb-1 text-small ${day.origin?.code === 'origin-plan' ? 'text-ink-3' : 'font-semibold text-act'}`}
      >
        {told(day.origin)}
      </span>
    </>
  )
}
