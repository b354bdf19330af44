import type { Say } from '..'
import { count } from '../count'

export const messages: Say['messages'] = {
  messages: 'Nachrichten',
  mailsClock: 'Was zu seiner Zeit gemailt wird',
  toldAtOnce:
    'Was mit einer Buchung geschieht – gebucht, verschoben, abgesagt, übergeben –, erfahren alle Beteiligten sofort. Hier steht, was ihnen außerdem vor und nach Terminen gemailt wird, in ihrer Sprache und auf ihrer Uhr.',
  none: 'Noch nichts.',
  sentence: (who, amount, side, condition) => (
    <>
      {who} eine E-Mail {amount} {side}, {condition}.
    </>
  ),
  who: { client: 'Der Kunde bekommt', hosts: 'Die Gastgeber bekommen' },
  units: { minutes: 'Minuten', hours: 'Stunden', days: 'Tage' },
  side: { before: 'vor Beginn', after: 'nach dem Ende' },
  before: {
    always: 'immer',
    unconfirmed: 'wenn die Zusage fehlt',
    first: 'wenn es der erste Termin ist',
  },
  after: {
    always: 'außer bei Nichterscheinen',
    first: 'wenn es der erste Termin war',
    attended: 'wenn der Kunde da war',
    missed: 'wenn der Kunde nicht kam',
  },
  wordsOf: {
    'client-reminder': 'Erinnerung',
    'client-thanks': 'Dank',
    'client-missed': 'Vermisst',
    'host-reminder': 'Erinnerung',
  },
  number: (n) => `Nachricht ${n}`,
  whoGets: (n) => `Nachricht ${n}: wer sie bekommt`,
  howLong: (n) => `Nachricht ${n}: wie lange`,
  unit: (n) => `Nachricht ${n}: Einheit`,
  when: (n) => `Nachricht ${n}: davor oder danach`,
  ifWhat: (n) => `Nachricht ${n}: unter welcher Bedingung`,
  remove: 'Entfernen',
  removeMessage: (n) => `Nachricht ${n} entfernen`,
  add: 'Nachricht hinzufügen',
  willBeSent: 'Was verschickt wird',
  asThingsStand: 'Nach heutigem Stand; vor jedem Versand wird noch einmal nachgesehen.',
  nothingAhead: 'Nach heutigem Stand nichts.',
  changeDoes: (adds, takes) =>
    [
      adds > 0 && `bringt ${count(adds, 'Nachricht', 'Nachrichten')} dazu`,
      takes > 0 && `nimmt ${count(takes, 'Nachricht', 'Nachrichten')} zurück`,
    ]
      .filter(Boolean)
      .join(' und '),
  yourChange: (does) => `Ihre Änderung ${does}.`,
  toHosts: 'an die Gastgeber',
  added: 'neu: ',
  taken: 'zurückgenommen: ',
}
