import type { Schemas } from '../../api/client'
import { say } from '../../say'

/** What is edited: how a meeting type's bookings find their hosts, and who may book it. */
export interface Draft {
  rules: Schemas['TypeRouting']
  who: Schemas['RoutingView']['who']
}

/** What the fields are called, where what was changed is named. */
export const fieldWords: Record<keyof Draft['rules'], string> = {
  mode: say.routing.changedHowOneFound,
  everyone: say.routing.hosts,
  teams: say.routing.hosts,
  people: say.routing.hosts,
  rules: say.routing.answersDecide,
  strict: say.routing.changedWhereNoRuleFits,
  returning: say.routing.changedReturningClients,
  period: say.routing.whichBookingsCount,
  bySeats: say.routing.howSharedCounts,
}
