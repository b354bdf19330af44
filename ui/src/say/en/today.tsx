import type { ReactNode } from 'react'
import { count } from '../count'

export const today = {
  sinceYesterday: 'Since yesterday',
  nothingWasBookedMoved: 'Nothing was booked, moved or cancelled.',
  openNext14Days: 'Open in the next 14 days',
  nothing: 'nothing',
  messageThem: 'Message to them',
  optional: 'optional',
  change: 'Change',
  attended: 'Attended',
  noShow: 'No-show',
  saysTheyCome: 'says they come',
  whoCame: 'Who came?',
  seatsTaken: (taken: number, seats: number) => `${taken} of ${seats} seats taken`,
  to: (end: string) => `to ${end}`,
  withGuests: (guests: string) => ` · with ${guests}`,
  checklistPoint: (n: number) => `Checklist, ${count(n, 'point', 'points')}`,
  notes: 'Notes',
  roomBeingMade: 'room is being made',
  joinRoomWith: (client: string) => `Join the room with ${client}`,
  joinRoom: 'Join the room',
  clientWasAskedChoose: 'The client was asked to choose another time.',
  keepBoth: 'Keep both',
  fewSignedUp: (booked: number, least: number, after: number) => {
    const who = booked === 0 ? 'Nobody has' : booked === 1 ? 'One person has' : `${booked} people have`
    const also =
      after === 0
        ? ''
        : after === 1
          ? ', and so does the session after it,'
          : `, and so do the ${after} sessions after it,`
    return `${who} signed up; it was meant for ${least} or more. It takes place${also} unless you call it off.`
  },
  takesPlace: 'It takes place',
  callOff: 'Call it off',
  callOffSession: (type: string) => `Call off ${type}`,
  seeSession: 'See the session',
  keepMeeting: 'Keep the meeting',
  moveMeetingTo: (day: string, clock: string) => `Move it to ${day}, ${clock}`,
  moveMeeting: (clock: string) => `Move the meeting to ${clock}`,
  handOver: 'Hand over …',
  putEventBack: 'Put the event back',
  askChooseAgain: (client: string) => `Ask ${client} to choose again`,
  askAnotherTime: 'Ask for another time',
  oldTimeStaysTheirs: 'The old time stays theirs until they have chosen.',
  cancelMeetingWith: (client: string) => `Cancel the meeting with ${client}`,
  cancelMeeting: 'Cancel the meeting',
  theyToldMailGoes: 'They are told by mail, and it goes out of both calendars.',
  handOverClient: (client: string) => `Hand over ${client}`,
  request: (client: string) => `Request of ${client}`,
  asks: (client: ReactNode, mail: string, type: string) => (
    <>
      {client} ({mail}) asks for {type}
    </>
  ),
  withHost: (host: string) => ` with ${host}`,
  clientsClock: (start: string, clientZone: string) => `(${start} in ${clientZone})`,
  where: (where: string) => `Where: ${where}`,
  guests: (guests: string) => `With guests: ${guests}`,
  timeKeptUntil: (expires: string) => `Its time is kept until ${expires}.`,
  youProposedWaitAnswer: (proposed: string) => ` You proposed ${proposed}, and wait for an answer.`,
  approve: 'Approve',
  proposeOtherTimes: 'Propose other times …',
  declineClient: (client: string) => `Decline ${client}`,
  decline: 'Decline',
  theyToldMail: 'They are told by mail.',
  theyToldMailTime: 'They are told by mail, and the time is free again.',
  otherTimes: (client: string) => `Other times for ${client}`,
  anotherBookingHasTime: 'Another booking has this time meanwhile.',
  timeKeptNobodyDecide: (expires: string) => `Its time is kept for nobody; decide until ${expires}.`,
  pressWhereCouldCome: (client: string) => `Press where ${client} could come instead; open starts stand as ticks.`,
  askedTimeStaysKept: ' The asked time stays kept.',
  proposeTheseTimes: (picked: number) => (picked < 2 ? 'Propose this time' : `Propose these ${picked} times`),
  decide: 'To decide',
  mend: 'To mend',
  askingRoom: 'Asking for the room …',
  makeRoomNow: 'Make the room now',
  otherClock: (minute: string, zone: string) => `${minute} in ${zone}`,
  lookingThroughYourColleagues: 'Looking through your colleagues’ bookings …',
  whoseDay: 'Whose day',
  yours: 'Yours',
  everybodys: 'Everybody’s',
  youHaveNoHours: (date: ReactNode) => <>You have no hours or meetings today. The next day with any is {date}.</>,
  today: 'Today',
  whyTimeOpenNot: 'Why is a time open or not?',
  iAmAway: 'I am away …',
  settingUpNotFinished: 'Setting up is not finished yet.',
  continueSettingUp: 'Continue setting up',
  noOtherMeetingsToday: 'No other meetings today.',
  noMeetingsToday: 'No meetings today.',
  sendSomebodyLinkMeeting: ' Send somebody the link of a meeting type, and what they book stands here.',
  colleaguesTodayTomorrow: 'Colleagues, today and tomorrow',
  joinRoomOf: (host: string, client: string) => `Join the room of ${host} with ${client}`,
  join: 'Join',
  othersAskSameTime: (asking: number) =>
    asking === 1 ? ' One other asks for the same time.' : ` ${asking} others ask for the same time.`,
  soon: (minutes: number) => {
    if (minutes === 0) return 'begins now'
    return minutes < 60
      ? `in ${count(minutes, 'minute', 'minutes')}`
      : `in ${count(Math.round(minutes / 60), 'hour', 'hours')}`
  },
  keyE: 'Key e',
}
