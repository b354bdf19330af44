/** The client's own calendar, read in the browser and laid over the open times. Nothing of it is sent. */

/** A busy time of the client's. */
export interface Busy {
  from: number // milliseconds since 1970
  to: number
}

/** At most so many occurrences of one event are looked at: a rule that never ends must not hang the page. */
const mostOccurrences = 2000

/**
 * The busy times within a range that an iCalendar text holds (RFC 5545): events that block time, recurring ones with their
 * exceptions; not cancelled or transparent ones. Throws if the text is no calendar.
 */
export async function busyIn(text: string, from: Date, to: Date): Promise<Busy[]> {
  const { default: ICAL } = await import('ical.js')
  const root = new ICAL.Component(ICAL.parse(text))
  for (const zone of root.getAllSubcomponents('vtimezone')) {
    const known = new ICAL.Timezone(zone)
    ICAL.TimezoneService.register(known, known.tzid)
  }
  const found: Busy[] = []
  const keep = (start: { toJSDate(): Date }, end: { toJSDate(): Date }) => {
    const busy = { from: start.toJSDate().getTime(), to: end.toJSDate().getTime() }
    if (busy.from < to.getTime() && busy.to > from.getTime() && busy.from < busy.to) found.push(busy)
  }
  for (const part of root.getAllSubcomponents('vevent')) {
    const event = new ICAL.Event(part)
    const free = part.getFirstPropertyValue('transp') === 'TRANSPARENT'
    if (free || part.getFirstPropertyValue('status') === 'CANCELLED' || event.isRecurrenceException()) continue
    if (!event.isRecurring()) {
      keep(event.startDate, event.endDate)
      continue
    }
    for (const other of root.getAllSubcomponents('vevent')) {
      const exception = new ICAL.Event(other)
      if (exception.uid === event.uid && exception.isRecurrenceException()) event.relateException(exception)
    }
    const occurrences = event.iterator()
    for (let i = 0; i < mostOccurrences; i++) {
      const next = occurrences.next()
      if (!next || next.toJSDate() > to) break
      const { startDate, endDate, item } = event.getOccurrenceDetails(next)
      if (item.component.getFirstPropertyValue('status') !== 'CANCELLED') keep(startDate, endDate)
    }
  }
  return found.sort((a, b) => a.from - b.from)
}

/** Whether a meeting of so many minutes would lie over one of the busy times. */
export function overlaps(busy: Busy[], start: Date, minutes: number): boolean {
  const from = start.getTime()
  return busy.some((b) => b.from < from + minutes * 60_000 && from < b.to)
}
