/** The client's own calendar, read in the browser and laid over the open times. Nothing of it is sent. */

/** A busy time of the client's. */
export interface Busy {
  from: number // milliseconds since 1970
  to: number
}

/** At most so many occurrences of one event are looked at, before the range and in it: a rule that never ends must not hang. */
const mostBefore = 20_000
const mostWithin = 2_000

type Ical = typeof import('ical.js').default
type Component = InstanceType<Ical['Component']>

/**
 * The busy times within a range that an iCalendar text holds (RFC 5545): events that block time, recurring ones with their
 * exceptions; not cancelled, free or declined ones. Throws if the text is no calendar.
 */
export async function busyIn(text: string, from: Date, to: Date): Promise<Busy[]> {
  const { default: ICAL } = await import('ical.js')
  const root = new ICAL.Component(ICAL.parse(text))
  for (const zone of root.getAllSubcomponents('vtimezone')) {
    const known = new ICAL.Timezone(zone)
    ICAL.TimezoneService.register(known, known.tzid)
  }
  const parts = root.getAllSubcomponents('vevent')
  const owner = ownerOf(parts)
  const exceptions = new Map<string, Component[]>()
  for (const part of parts) {
    if (!part.hasProperty('recurrence-id')) continue
    const uid = String(part.getFirstPropertyValue('uid'))
    exceptions.set(uid, [...(exceptions.get(uid) ?? []), part])
  }
  const found: Busy[] = []
  const keep = (start: { toJSDate(): Date }, end: { toJSDate(): Date }) => {
    const busy = { from: start.toJSDate().getTime(), to: end.toJSDate().getTime() }
    if (busy.from < to.getTime() && busy.to > from.getTime() && busy.from < busy.to) found.push(busy)
  }
  for (const part of parts) {
    if (part.hasProperty('recurrence-id') || isFree(part, owner)) continue
    // Given its exceptions, an event doesn't look through all others for them.
    const changed = exceptions.get(String(part.getFirstPropertyValue('uid'))) ?? []
    const event = new ICAL.Event(part, { exceptions: changed })
    if (!event.isRecurring()) {
      keep(event.startDate, event.endDate)
      continue
    }
    const length = event.duration.toSeconds() * 1000
    const occurrences = event.iterator()
    for (let before = 0, within = 0; before < mostBefore && within < mostWithin; ) {
      const next = occurrences.next()
      if (!next) break
      const at = next.toJSDate().getTime()
      if (at > to.getTime()) break
      if (at + length <= from.getTime()) before += 1
      else within += 1
      // What was changed may lie anywhere; the others are as long as the first, and most lie before the range.
      if (changed.length > 0) {
        const { startDate, endDate, item } = event.getOccurrenceDetails(next)
        if (!isFree(item.component, owner)) keep(startDate, endDate)
      } else if (at + length > from.getTime()) {
        const { startDate, endDate } = event.getOccurrenceDetails(next)
        keep(startDate, endDate)
      }
    }
  }
  return found.sort((a, b) => a.from - b.from)
}

/** Whether an event takes no time of the calendar's owner: free, cancelled, or declined by them. */
function isFree(part: Component, owner: string): boolean {
  if (part.getFirstPropertyValue('transp') === 'TRANSPARENT' || part.getFirstPropertyValue('status') === 'CANCELLED')
    return true
  if (part.getFirstPropertyValue('x-microsoft-cdo-busystatus') === 'FREE') return true
  return part
    .getAllProperties('attendee')
    .some((attendee) => attendee.getFirstParameter('partstat') === 'DECLINED' && addressOf(attendee) === owner)
}

/** Whose calendar it is, as far as it tells: the address that takes part in most of its events. */
function ownerOf(parts: Component[]): string {
  const count = new Map<string, number>()
  for (const part of parts)
    for (const attendee of part.getAllProperties('attendee'))
      count.set(addressOf(attendee), (count.get(addressOf(attendee)) ?? 0) + 1)
  return [...count].sort(([, a], [, b]) => b - a)[0]?.[0] ?? ''
}

function addressOf(attendee: { getFirstValue(): unknown }): string {
  return String(attendee.getFirstValue()).toLowerCase()
}

/** Whether a meeting of so many minutes would lie over one of the busy times. */
export function overlaps(busy: Busy[], start: Date, minutes: number): boolean {
  const from = start.getTime()
  return busy.some((b) => b.from < from + minutes * 60_000 && from < b.to)
}
