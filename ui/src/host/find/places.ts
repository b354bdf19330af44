import type { Schemas } from '../../api/client'
import { readDate } from '../../time/readDate'
import { longDate, weekOf } from '../../time/time'

/** Something that can be gone to. */
export interface Place {
  kind: string
  name: string
  note?: string
  path: string
}

const heads: Record<Schemas['Found']['kind'], string> = {
  client: 'Clients',
  booking: 'Bookings',
  type: 'Meeting types',
  colleague: 'Colleagues',
  hours: 'Hours',
}

/** What the application itself has: its views, its settings, what can be done; each with other words it is looked for by. */
const own: [kind: string, name: string, path: string, also?: string][] = [
  ['Actions', 'Book a client', '/board?do=enter', 'new booking by hand enter'],
  ['Actions', 'Block time', '/board?do=enter', 'new busy'],
  ['Actions', 'I am away', '/?do=away', 'ill holiday time off leave sick'],
  ['Actions', 'New meeting type', '/types/new', 'add create'],
  ['Actions', 'Connect a calendar', '/calendars', 'add server caldav feed'],
  ['Actions', 'Invite a colleague', '/people#invite', 'add person member'],
  ['Actions', 'Offer times to one client', '/clients', 'one-off link'],
  ['Views', 'Today', '/'],
  ['Views', 'Board', '/board', 'week days bookings'],
  ['Views', 'All colleagues on the board', '/board?of=all', 'team everybody'],
  ['Views', 'Meeting types', '/types'],
  ['Views', 'Hours', '/hours', 'week plan availability open'],
  ['Views', 'Calendars', '/calendars'],
  ['Views', 'People', '/people', 'colleagues team members roles'],
  ['Views', 'Clients', '/clients'],
  ['Actions', 'Share the workspace’s page', '/share/workspace/0', 'link qr code embed signature'],
  ['Settings', 'Sites that may show your pages', '/workspace#embedding', 'embed frame'],
  ['Settings', 'Workspace', '/workspace', 'name zone rules settings'],
  ['Settings', 'Booking rules of the workspace', '/workspace', 'notice buffers limits window step'],
  ['Settings', 'Public holidays', '/workspace', 'closed days'],
  ['Settings', 'Looks', '/workspace/looks', 'colour logo pages'],
  ['Settings', 'Account', '/account', 'password language sign out sessions feeds'],
]

/** The words of a text by their first letters, whatever their accents. */
function begins(text: string, words: string[]): boolean {
  const plain = (said: string) => said.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase()
  const parts = plain(text).split(/[^\p{L}\p{N}]+/u)
  return words.every((word) => parts.some((part) => part.startsWith(plain(word))))
}

/** What is found here, without asking the server. */
export function ownPlaces(search: string): Place[] {
  const words = search.split(/\s+/).filter(Boolean)
  if (words.length === 0) return []
  return own
    .filter(([, name, , also = '']) => begins(`${name} ${also}`, words))
    .map(([kind, name, path]) => ({ kind, name, path }))
}

/** The day that was typed, in one's own week and among all colleagues. */
export function dayPlaces(search: string, today: string, firstWeekday: number): Place[] {
  const date = readDate(search, today)
  if (!date) return []
  return [
    { kind: 'Days', name: longDate(date), note: 'in your week', path: `/board?from=${weekOf(date, firstWeekday)}` },
    { kind: 'Days', name: longDate(date), note: 'all colleagues', path: `/board?of=all&from=${date}` },
  ]
}

export function servedPlaces(found: Schemas['Found'][]): Place[] {
  return found.map(({ kind, name, note, path }) => ({ kind: heads[kind], name, note, path }))
}
