import type { Schemas } from '../api/client'
import { say } from '../say'

/** The steps of a booking's life, in words. */
export const stepWords: Record<Schemas['Recent']['kind'], string> = {
  held: say.shell.waitsCode,
  requested: say.shell.requested,
  booked: say.shell.booked,
  approved: say.shell.approved,
  declined: say.shell.declined,
  proposed: say.shell.otherTimesProposed,
  taken: say.shell.proposedTimeTaken,
  expired: say.shell.expired,
  rescheduled: say.shell.moved,
  cancelled: say.shell.cancelled,
  asked: say.shell.askedChooseAgain,
  reassigned: say.shell.handedOver,
  confirmed: say.shell.saysTheyCome,
  corrected: say.shell.correctedClient,
  attended: say.shell.attended,
  'no-show': say.shell.noShow,
  unmarked: say.shell.attendanceReopened,
}

/** How a booking stands, in words. */
export const stateWords: Record<Schemas['HostBooking']['state'], string> = {
  unproved: say.shell.waitsCode2,
  requested: say.shell.requested2,
  booked: say.shell.booked2,
  attended: say.shell.attended2,
  'no-show': 'no-show',
  cancelled: say.shell.cancelled2,
  declined: say.shell.declined2,
  expired: say.shell.expired2,
}
