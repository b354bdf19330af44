import type { Say } from '..'
import { count } from '../count'

export const today: Say['today'] = {
  soon: (minutes) => {
    if (minutes === 0) return 'beginnt jetzt'
    return minutes < 60
      ? `in ${count(minutes, 'Minute', 'Minuten')}`
      : `in ${count(Math.round(minutes / 60), 'Stunde', 'Stunden')}`
  },
  sinceYesterday: 'Seit gestern',
  nothingWasBookedMoved: 'Nichts wurde gebucht, verschoben oder abgesagt.',
  openNext14Days: 'Frei in den nächsten 14 Tagen',
  nothing: 'nichts',
  messageThem: 'Nachricht dazu',
  optional: 'freiwillig',
  change: 'Ändern',
  attended: 'Erschienen',
  noShow: 'Nicht erschienen',
  saysTheyCome: 'kommt nach eigener Angabe',
  whoCame: 'Wer war da?',
  seatsTaken: (taken, seats) => `${taken} von ${seats} Plätzen vergeben`,
  to: (end) => `bis ${end}`,
  withGuests: (guests) => ` · mit ${guests}`,
  checklistPoint: (n) => `Checkliste, ${count(n, 'Punkt', 'Punkte')}`,
  notes: 'Notizen',
  roomBeingMade: 'Raum wird eingerichtet',
  joinRoomWith: (client) => `Den Raum mit ${client} betreten`,
  joinRoom: 'Raum betreten',
  clientWasAskedChoose: 'Der Kunde wurde gebeten, eine andere Zeit zu wählen.',
  keepBoth: 'Beides behalten',
  fewSignedUp: (booked, least, after) => {
    const who = booked === 0 ? 'Niemand ist' : booked === 1 ? 'Eine Person ist' : `${booked} Personen sind`
    const also = after === 0 ? '' : after === 1 ? ' – und der danach –' : ` – und die ${after} danach –`
    return `${who} angemeldet; gedacht war es für ${least} oder mehr. Der Termin${also} findet statt, wenn Sie nicht absagen.`
  },
  takesPlace: 'Er findet statt',
  callOff: 'Absagen',
  callOffSession: (type) => `${type} absagen`,
  seeSession: 'Termin ansehen',
  keepMeeting: 'Den Termin behalten',
  moveMeetingTo: (day, clock) => `Auf ${day}, ${clock} verschieben`,
  moveMeeting: (clock) => `Den Termin auf ${clock} verschieben`,
  handOver: 'Übergeben …',
  putEventBack: 'Den Kalendereintrag zurücksetzen',
  askChooseAgain: (client) => `${client} bitten, neu zu wählen`,
  askAnotherTime: 'Um eine andere Zeit bitten',
  oldTimeStaysTheirs: 'Die alte Zeit bleibt reserviert, bis neu gewählt ist.',
  cancelMeetingWith: (client) => `Den Termin mit ${client} absagen`,
  cancelMeeting: 'Den Termin absagen',
  theyToldMailGoes: 'Der Kunde erfährt es per E-Mail, und der Termin verschwindet aus beiden Kalendern.',
  handOverClient: (client) => `${client} übergeben`,
  request: (client) => `Anfrage von ${client}`,
  asks: (client, mail, type) => (
    <>
      {client} ({mail}) möchte {type}
    </>
  ),
  withHost: (host) => ` bei ${host}`,
  clientsClock: (start, clientZone) => `(${start} in ${clientZone})`,
  where: (where) => `Ort: ${where}`,
  guests: (guests) => `Mit Gästen: ${guests}`,
  timeKeptUntil: (expires) => `Die Zeit bleibt bis ${expires} reserviert.`,
  youProposedWaitAnswer: (proposed) => ` Sie haben ${proposed} vorgeschlagen und warten auf Antwort.`,
  approve: 'Bestätigen',
  proposeOtherTimes: 'Andere Zeiten vorschlagen …',
  declineClient: (client) => `${client} ablehnen`,
  decline: 'Ablehnen',
  theyToldMail: 'Der Kunde erfährt es per E-Mail.',
  theyToldMailTime: 'Der Kunde erfährt es per E-Mail, und die Zeit ist wieder frei.',
  otherTimes: (client) => `Andere Zeiten für ${client}`,
  anotherBookingHasTime: 'Diese Zeit hat inzwischen eine andere Buchung.',
  timeKeptNobodyDecide: (expires) => `Die Zeit ist für niemanden reserviert; entscheiden Sie bis ${expires}.`,
  pressWhereCouldCome: (client) =>
    `Drücken Sie dort, wo ${client} stattdessen kommen könnte; freie Startzeiten sind als Striche zu sehen.`,
  askedTimeStaysKept: ' Die angefragte Zeit bleibt reserviert.',
  proposeTheseTimes: (picked) => (picked < 2 ? 'Diese Zeit vorschlagen' : `Diese ${picked} Zeiten vorschlagen`),
  decide: 'Zu entscheiden',
  mend: 'Zu beheben',
  askingRoom: 'Der Raum wird angefragt …',
  makeRoomNow: 'Den Raum jetzt einrichten',
  otherClock: (minute, zone) => `${minute} in ${zone}`,
  lookingThroughYourColleagues: 'Die Buchungen der Kollegen werden durchgesehen …',
  whoseDay: 'Wessen Tag',
  yours: 'Nur Eigenes',
  everybodys: 'Alle',
  youHaveNoHours: (date) => (
    <>Sie haben heute weder Arbeitszeiten noch Termine. Der nächste Tag mit etwas ist {date}.</>
  ),
  today: 'Heute',
  whyTimeOpenNot: 'Warum ist eine Zeit frei oder nicht?',
  iAmAway: 'Ich bin abwesend …',
  settingUpNotFinished: 'Die Einrichtung ist noch nicht fertig.',
  continueSettingUp: 'Einrichtung fortsetzen',
  noOtherMeetingsToday: 'Heute keine weiteren Termine.',
  noMeetingsToday: 'Heute keine Termine.',
  sendSomebodyLinkMeeting: ' Schicken Sie jemandem den Link einer Terminart; was gebucht wird, steht dann hier.',
  colleaguesTodayTomorrow: 'Kollegen, heute und morgen',
  joinRoomOf: (host, client) => `Den Raum von ${host} mit ${client} betreten`,
  join: 'Betreten',
  othersAskSameTime: (asking) =>
    asking === 1 ? ' Noch eine Person fragt dieselbe Zeit an.' : ` ${asking} weitere fragen dieselbe Zeit an.`,
  keyE: 'Taste e',
}
