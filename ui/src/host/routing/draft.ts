import type { Schemas } from '../../api/client'

/** What is edited: how a meeting type's bookings find their hosts, and who may book it. */
export interface Draft {
  rules: Schemas['TypeRouting']
  who: Schemas['RoutingView']['who']
}

/** What the fields are called, where what was changed is named. */
export const fieldWords: Record<keyof Draft['rules'], string> = {
  way: 'how one is found',
  everyone: 'hosts',
  teams: 'hosts',
  people: 'hosts',
  rules: 'answers that decide',
  strict: 'where no rule fits',
  returning: 'returning clients',
  period: 'which bookings count',
}
