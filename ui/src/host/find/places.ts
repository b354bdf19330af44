import type { Schemas } from '../../api/client'
import { say } from '../../say'
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
  client: say.find.clients,
  booking: say.find.bookings,
  type: say.find.meetingTypes,
  colleague: say.find.colleagues,
  hours: say.find.hours,
}

/** What the application itself has: its views, its settings, what can be done; each with other words it is looked for by. */
const own: [kind: string, name: string, path: string, also?: string][] = [
  [say.find.actions, say.find.bookClient, '/board?do=enter', say.find.newBookingHandEnter],
  [say.find.actions, say.find.blockTime, '/board?do=enter', say.find.newBusy],
  [say.find.actions, say.find.iAmAway, '/?do=away', say.find.illHolidayTimeOff],
  [say.find.actions, say.find.newMeetingType, '/types/new', say.find.addCreate],
  [say.find.actions, say.find.connectCalendar, '/calendars', say.find.addServerCaldavFeed],
  [say.find.actions, say.find.inviteColleague, '/people#invite', say.find.addPersonMember],
  [say.find.actions, say.find.offerTimesOneClient, '/clients', say.find.oneOffLink],
  [say.find.views, say.find.today, '/'],
  [say.find.views, say.find.board, '/board', say.find.weekDaysBookings],
  [say.find.views, say.find.allColleaguesBoard, '/board?of=all', say.find.teamEverybody],
  [say.find.views, say.find.meetingTypes, '/types'],
  [say.find.views, say.find.hours, '/hours', say.find.weekPlanAvailabilityOpen],
  [say.find.views, say.find.calendars, '/calendars'],
  [say.find.views, say.find.people, '/people', say.find.colleaguesTeamMembersRoles],
  [say.find.views, say.find.clients, '/clients'],
  [say.find.actions, say.find.shareWorkspacesPage, '/share/workspace/0', say.find.linkQrCodeEmbed],
  [say.find.settings, say.find.sitesMayShowYour, '/workspace#embedding', say.find.embedFrame],
  [say.find.settings, say.find.workspace, '/workspace', say.find.nameZoneRulesSettings],
  [say.find.settings, say.find.bookingRulesWorkspace, '/workspace', say.find.noticeBuffersLimitsWindow],
  [say.find.settings, say.find.publicHolidays, '/workspace', say.find.closedDays],
  [say.find.settings, say.messages.messages, '/messages', say.find.remindersThanks],
  [say.find.settings, say.find.looks, '/workspace/looks', say.find.colourLogoPages],
  [say.find.settings, say.find.account, '/account', say.find.passwordLanguageSignOut],
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
  const date = readDate(search, today, say.kit.nearDays)
  if (!date) return []
  return [
    {
      kind: say.find.days,
      name: longDate(date),
      note: say.find.yourWeek,
      path: `/board?from=${weekOf(date, firstWeekday)}`,
    },
    { kind: say.find.days, name: longDate(date), note: say.find.allColleagues, path: `/board?of=all&from=${date}` },
  ]
}

export function servedPlaces(found: Schemas['Found'][]): Place[] {
  return found.map(({ kind, name, note, path }) => ({
    kind: heads[kind],
    name: kind === 'hours' ? say.people.hoursOf(name) : name,
    note,
    path,
  }))
}
