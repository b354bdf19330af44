import type { ReactNode } from 'react'
import { count } from '../count'

export const clients = {
  firstBookingSentence: 'First booking.',
  otherBookings: (n: number) => count(n, 'other booking', 'other bookings'),
  lastMet: (date: string) => `last met on ${date}`,
  noShow: (n: number) => count(n, 'no-show', 'no-shows'),
  firstBooking: 'First booking',
  noted: (notes: string) => ` Noted: “${notes}”.`,
  waitsAnswer: 'waits for an answer',
  taken: 'taken',
  withdrawn: 'withdrawn',
  expired: 'expired',
  oneOffOffers: 'One-off offers',
  timesPickedHandOne:
    'Times picked by hand for one client, to be taken once. Offer some, and what becomes of it stands here.',
  whoeverHasLink: 'Whoever has the link',
  offerTo: (offer: ReactNode, type: string) => (
    <>
      {offer}, {type} with
    </>
  ),
  opened: (opened: string) => `opened ${opened}`,
  notOpenedYet: 'not opened yet',
  withdraw: 'Withdraw',
  minutesAmongOpenTimes: (minutes: number, lastDay: string) => `${minutes} minutes among open times, until ${lastDay}`,
  offerMade: 'The offer is made',
  offerTimes: 'Offer times',
  whoeverHasLinkCan: (mail: string) =>
    `${mail && `It is on its way to ${mail}. `}Whoever has this link can take one of the times, once:`,
  copy: 'Copy',
  youHostNoMeeting: 'You host no meeting type yet. Make one first.',
  meetingType: 'Meeting type',
  minutes: (t: string, duration: number) => `${t}, ${duration} minutes`,
  host: 'With',
  takenUntil: 'To be taken until',
  optional: 'optional',
  client: 'Client',
  optionalElseYouSend: 'optional; else you send the link yourself',
  mail: 'Mail',
  theyChooseAmong: 'They choose among',
  whatTheyChooseAmong: 'What they choose among',
  timesYouPick: 'times that you pick',
  openTimesRulesTheir: (own: boolean) => `${own ? 'your' : 'their'} open times, by rules of their own`,
  pressWhereTheyCould:
    'Press where they could come. Your rules don’t count here, but nothing is booked over what is there.',
  keepTheseTimesThem: 'Keep these times for them until then; nobody else can book them.',
  messageThem: 'Message to them',
  offerYourOpenTimes: 'Offer your open times',
  offerTheseTimes: (picked: number) => (picked < 2 ? 'Offer this time' : `Offer these ${picked} times`),
  lateTheyLike: 'as late as they like',
  leastHourAhead: 'at least an hour ahead',
  least4HoursAhead: 'at least 4 hours ahead',
  leastDayAhead: 'at least a day ahead',
  least3DaysAhead: 'at least 3 days ahead',
  leastWeekAhead: 'at least a week ahead',
  lengthMinutes: 'Length in minutes',
  minutesStartEvery: (number: ReactNode) => <>For {number} minutes, a start every</>,
  startEveryManyMinutes: 'A start every so many minutes',
  minutesBooked: (number: ReactNode) => <>{number} minutes, booked</>,
  howSoon: 'How soon',
  typesLimitsBookingsCount: 'The type’s limits of bookings count too.',
  yourHoursBuffersCalendars: 'Your hours, buffers and calendars count as always.',
  clients: 'Clients',
  latest: (n: number) => `${n} latest`,
  findNameMail: 'Find by name or mail',
  nobodyNameMailHas: 'Nobody by that name or mail has booked.',
  nobodyHasBookedYet:
    'Nobody has booked yet. Send somebody the link of a meeting type; who books, stands here by itself.',
  meeting: (n: number) => count(n, 'meeting', 'meetings'),
  nowSince: (mail: ReactNode, place: string, offset: string, now: string, since: string) => (
    <>
      {mail} · {place}, {offset}, now {now} · since {since}
    </>
  ),
  offerThemTimes: 'Offer them times …',
  bookings: 'Bookings',
  mailReturned: (day: string) => `Mail to this address comes back, since ${day}`,
  theirServerSaid: (said: string) => (said ? `Their server said: “${said}”` : 'Their server did not say why.'),
  mailWorks: 'It arrives again',
  agreed: 'Agreed to',
  bookingWith: (type: ReactNode, host: ReactNode, stateWords: string) => (
    <>
      {type} with {host}, {stateWords}
    </>
  ),
  notesColleaguesOnly: 'Notes, for colleagues only',
  saveNotes: 'Save notes',
  bookAgainThem: 'Book again for them:',
  chooseMeetingType: 'choose a meeting type',
}
