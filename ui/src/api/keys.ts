import type { QueryClient } from '@tanstack/react-query'

/** Everything that the host's application keeps of what it asked the server, by its key; and what a change of it leaves untrue. A key
 *  begins with its subject's name, and stands for all keys that begin like it. */
export const keys = {
  me: ['me'],
  sessions: ['sessions'],
  news: ['news'],
  invitation: (secret: string) => ['join', secret],
  today: ['today'],
  history: ['history'],
  hours: ['hours'],
  days: (first: string | undefined) => ['days', first],
  tried: {
    week: (week: unknown) => ['week', week],
    hours: (week: unknown) => ['hours-preview', week],
    differing: (days: unknown) => ['differing', days],
    day: (date: string, intervals: unknown) => ['day-trial', date, intervals],
    type: (id: number, draft: unknown, host = 0) => ['type-preview', id, draft, host],
    routing: (id: number, draft: unknown) => ['routing', 'preview', id, draft],
    offer: (id: number, draft: unknown) => ['offer', 'preview', id, draft],
    example: (group: string, rules: unknown) => ['rule-example', group, rules],
    workspace: (settings: unknown) => ['workspace-trial', settings],
    looks: (looks: unknown) => ['looks', looks],
    messages: (type: number, draft: unknown) => ['messages-preview', type, draft],
    letter: (about: string, wish: unknown) => ['letter', about, wish],
    handover: (span: unknown) => ['handover', span],
  },
  weekPlans: ['week-plans'],
  calendars: ['calendars'],
  calendarSettings: ['calendar-settings'],
  feeds: ['feeds'],
  types: (all: boolean) => ['types', all],
  typeList: (filter: unknown) => ['types', 'list', filter],
  type: (id: number) => ['types', id],
  typeFacts: (id: number) => ['types', id, 'facts'],
  reasons: (...asked: unknown[]) => ['reasons', ...asked],
  routing: (id: number) => ['routing', id],
  offer: (id: number) => ['offer', id],
  workspace: ['workspace'],
  messages: (type: number) => ['messages', type],
  looksDraft: ['looks draft'],
  staff: ['staff'],
  board: (...view: unknown[]) => ['board', ...view],
  /** What lies on the board, for a booking: it changes with the board. */
  onBoard: (
    what:
      | 'check'
      | 'sessions'
      | 'series'
      | 'sheet'
      | 'sent'
      | 'known-clients'
      | 'places'
      | 'place'
      | 'to pick'
      | 'takers',
    ...asked: unknown[]
  ) => ['board', what, ...asked],
  found: (search: string) => ['found', search],
  clients: (search: string) => ['clients', search],
  client: (mail: string) => ['client', mail],
  oneOffs: ['one-offs'],
  sharing: (...asked: unknown[]) => ['sharing', ...asked],
  sharedLinks: (type: number) => ['shared-links', type],
  timesToPaste: (type: number, wish: unknown) => ['times-to-paste', type, wish],
  openToPick: (type: number, from: string) => ['open-to-pick', type, from],
}

/** What is no longer true once something has changed, by the first words of the keys. */
const untrue = {
  me: ['me'],
  type: ['types', 'type-preview', 'history', 'today', 'week-plans', 'sharing', 'open-to-pick'],
  routing: ['types', 'type-preview', 'history', 'today', 'board'],
  offer: ['types', 'history', 'today', 'sharing', 'shared-links'],
  workspace: ['me', 'sharing', 'types', 'type-preview', 'today', 'history'],
  looks: ['history'],
  messages: ['messages', 'history', 'messages-preview'],
  sentMessage: ['messages'],
  weekPlan: ['history'],
  hours: ['hours-preview', 'today', 'history', 'days', 'week-plans', 'types'],
  calendar: ['today'],
  calendarSettings: ['calendars', 'today', 'hours'],
  staff: ['routing', 'board', 'me'],
  bookings: ['board', 'today', 'history'],
  handedOn: ['board', 'today', 'history', 'staff', 'routing'],
  away: ['staff', 'board', 'today', 'history', 'handover', 'routing', 'hours', 'days'],
  attendance: ['today', 'board', 'client'],
  oneOffs: ['one-offs'],
} as const

/** Has everything asked for again that a change leaves untrue; what is shown waits for it if it is awaited. */
export async function hasChanged(client: QueryClient, what: keyof typeof untrue): Promise<void> {
  await Promise.all(untrue[what].map((key) => client.invalidateQueries({ queryKey: [key] })))
}

/** Forgets what was asked for somebody else, whose things one looks after now. */
export function forgetOthers(client: QueryClient): void {
  client.removeQueries({ predicate: ({ queryKey }) => queryKey[0] !== keys.me[0] })
}
