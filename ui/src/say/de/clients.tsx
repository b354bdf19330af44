import type { Say } from '..'
import { count } from '../count'

export const clients: Say['clients'] = {
  firstBookingSentence: 'Erste Buchung.',
  otherBookings: (n) => count(n, 'andere Buchung', 'andere Buchungen'),
  lastMet: (date) => `zuletzt getroffen am ${date}`,
  noShow: (n) => `${n}-mal nicht erschienen`,
  firstBooking: 'Erste Buchung',
  noted: (notes) => ` Notiz: „${notes}“.`,
  waitsAnswer: 'wartet auf Antwort',
  taken: 'angenommen',
  withdrawn: 'zurückgezogen',
  expired: 'abgelaufen',
  oneOffOffers: 'Einmalige Angebote',
  timesPickedHandOne:
    'Von Hand ausgewählte Zeiten für einen Kunden, die einmal angenommen werden können. Bieten Sie welche an, dann steht hier, was daraus wird.',
  whoeverHasLink: 'Wer den Link hat',
  offerTo: (offer, type) => (
    <>
      {offer}, {type} bei
    </>
  ),
  opened: (opened) => `geöffnet ${opened}`,
  notOpenedYet: 'noch nicht geöffnet',
  withdraw: 'Zurückziehen',
  minutesAmongOpenTimes: (minutes, lastDay) => `${minutes} Minuten in freien Zeiten, bis ${lastDay}`,
  offerMade: 'Das Angebot steht',
  offerTimes: 'Zeiten anbieten',
  whoeverHasLinkCan: (mail) =>
    `${mail && `Es ist unterwegs an ${mail}. `}Wer diesen Link hat, kann eine der Zeiten annehmen, einmal:`,
  copy: 'Kopieren',
  youHostNoMeeting: 'Sie bieten noch keine Terminart an. Legen Sie zuerst eine an.',
  meetingType: 'Terminart',
  minutes: (type, duration) => `${type}, ${duration} Minuten`,
  host: 'Bei',
  takenUntil: 'Anzunehmen bis',
  optional: 'freiwillig',
  client: 'Kunde',
  optionalElseYouSend: 'freiwillig; sonst schicken Sie den Link selbst',
  mail: 'E-Mail',
  theyChooseAmong: 'Zur Wahl stehen',
  whatTheyChooseAmong: 'Was zur Wahl steht',
  timesYouPick: 'Zeiten, die Sie auswählen',
  openTimesRulesTheir: (own) => `${own ? 'Ihre freien Zeiten' : 'deren freie Zeiten'}, nach eigenen Regeln`,
  pressWhereTheyCould:
    'Drücken Sie dort, wo der Kunde kommen könnte. Ihre Regeln gelten hier nicht, aber gebucht wird nichts über das hinweg, was dort steht.',
  keepTheseTimesThem: 'Diese Zeiten bis dahin freihalten; niemand sonst kann sie buchen.',
  messageThem: 'Nachricht dazu',
  offerYourOpenTimes: 'Die freien Zeiten anbieten',
  offerTheseTimes: (picked) => (picked < 2 ? 'Diese Zeit anbieten' : `Diese ${picked} Zeiten anbieten`),
  lateTheyLike: 'beliebig kurzfristig',
  leastHourAhead: 'mindestens eine Stunde vorher',
  least4HoursAhead: 'mindestens 4 Stunden vorher',
  leastDayAhead: 'mindestens einen Tag vorher',
  least3DaysAhead: 'mindestens 3 Tage vorher',
  leastWeekAhead: 'mindestens eine Woche vorher',
  lengthMinutes: 'Dauer in Minuten',
  minutesStartEvery: (number) => <>{number} Minuten lang, Beginn alle</>,
  startEveryManyMinutes: 'Alle wie viele Minuten ein Beginn',
  minutesBooked: (number) => <>{number} Minuten, zu buchen</>,
  howSoon: 'Wie kurzfristig',
  typesLimitsBookingsCount: 'Die Obergrenzen der Terminart gelten auch.',
  yourHoursBuffersCalendars: 'Arbeitszeiten, Puffer und Kalender gelten wie immer.',
  clients: 'Kunden',
  latest: (n) => `die ${n} letzten`,
  findNameMail: 'Nach Name oder E-Mail suchen',
  nobodyNameMailHas: 'Unter diesem Namen oder dieser E-Mail hat niemand gebucht.',
  nobodyHasBookedYet:
    'Noch hat niemand gebucht. Schicken Sie jemandem den Link einer Terminart; wer bucht, steht dann von selbst hier.',
  meeting: (n) => count(n, 'Termin', 'Termine'),
  nowSince: (mail, place, offset, now, since) => (
    <>
      {mail} · {place}, {offset}, jetzt {now} · seit {since}
    </>
  ),
  offerThemTimes: 'Zeiten anbieten …',
  bookings: 'Buchungen',
  mailReturned: (day) => `E-Mails an diese Adresse kommen seit ${day} zurück`,
  theirServerSaid: (said) => (said ? `Der Server dort sagte: „${said}“` : 'Der Server dort nannte keinen Grund.'),
  mailWorks: 'Sie kommen wieder an',
  agreed: 'Zugestimmt',
  bookingWith: (type, host, stateWords) => (
    <>
      {type} bei {host}, {stateWords}
    </>
  ),
  notesColleaguesOnly: 'Notizen, nur für Kollegen',
  saveNotes: 'Notizen speichern',
  bookAgainThem: 'Noch einmal buchen:',
  chooseMeetingType: 'Terminart wählen',
}
