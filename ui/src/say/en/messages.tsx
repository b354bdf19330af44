import type { ReactNode } from 'react'
import { count } from '../count'

export const messages = {
  messages: 'Messages',
  mailsClock: 'What is mailed by the clock',
  toldAtOnce:
    'Of everything that happens to a booking – booked, moved, cancelled, handed over – those concerned are told at once. Here is what is mailed before and after meetings besides, to each in their language and on their clock.',
  none: 'Nothing yet.',
  sentence: (who: ReactNode, amount: ReactNode, side: ReactNode, condition: ReactNode) => (
    <>
      {who} a mail {amount} {side}, {condition}.
    </>
  ),
  who: { client: 'The client gets', hosts: 'The hosts get' } as Record<'client' | 'hosts', string>,
  units: { minutes: 'minutes', hours: 'hours', days: 'days' } as Record<'minutes' | 'hours' | 'days', string>,
  side: { before: 'before the start', after: 'after the end' } as Record<'before' | 'after', string>,
  before: {
    always: 'always',
    unconfirmed: 'if they have not said that they come',
    first: 'if they come for the first time',
  } as Record<string, string>,
  after: {
    always: 'unless they didn’t come',
    first: 'if it was their first time',
    attended: 'if they were there',
    missed: 'if they didn’t come',
  } as Record<string, string>,
  wordsOf: {
    'client-reminder': 'Reminder',
    'client-thanks': 'Thanks',
    'client-missed': 'Missed',
    'host-reminder': 'Reminder',
  } as Record<string, string>,
  number: (n: number) => `Message ${n}`,
  whoGets: (n: number) => `Message ${n}: who gets it`,
  howLong: (n: number) => `Message ${n}: how long`,
  unit: (n: number) => `Message ${n}: unit`,
  when: (n: number) => `Message ${n}: before or after`,
  ifWhat: (n: number) => `Message ${n}: when not always`,
  remove: 'Remove',
  removeMessage: (n: number) => `Remove message ${n}`,
  add: 'Add a message',
  willBeSent: 'What will be sent',
  asThingsStand: 'As things stand; it is looked at again before each one goes out.',
  nothingAhead: 'Nothing, as things stand.',
  changeDoes: (adds: number, takes: number) =>
    [
      adds > 0 && `brings ${count(adds, 'message', 'messages')}`,
      takes > 0 && `takes ${count(takes, 'message', 'messages')} back`,
    ]
      .filter(Boolean)
      .join(' and '),
  yourChange: (does: string) => `Your change ${does}.`,
  toHosts: 'to the hosts',
  added: 'new: ',
  taken: 'taken back: ',
}
