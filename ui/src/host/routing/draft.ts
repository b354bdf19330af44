import type { Schemas } from '../../api/client'

/** What is edited: how a meeting type's bookings find their hosts, and who may book it. */
export interface Draft {
  rules: Schemas['TypeRouting']
  who: Schemas['RoutingView']['who']
}
