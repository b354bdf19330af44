import type { Schemas } from '../api/client'
import { say } from '../say'

/** The steps of a booking's life, in words. */
export const stepWords: Record<Schemas['Recent']['kind'], string> = {
  held: say.shell.stepHeld,
  requested: say.shell.stepRequested,
  booked: say.shell.stepBooked,
  approved: say.shell.stepApproved,
  declined: say.shell.stepDeclined,
  proposed: say.shell.stepProposed,
  taken: say.shell.stepTaken,
  expired: say.shell.stepExpired,
  rescheduled: say.shell.stepMoved,
  cancelled: say.shell.stepCancelled,
  kept: say.shell.stepKept,
  changed: say.shell.stepChanged,
  given: say.shell.stepGiven,
  doubted: say.shell.stepDoubted,
  asked: say.shell.stepAsked,
  reassigned: say.shell.stepHandedOver,
  confirmed: say.shell.stepConfirmed,
  corrected: say.shell.stepCorrected,
  attended: say.shell.stepAttended,
  'no-show': say.shell.stepNoShow,
  unmarked: say.shell.stepUnmarked,
  scheduled: say.shell.stepScheduled,
  queued: say.shell.stepQueued,
  offered: say.shell.stepOffered,
  notified: say.shell.stepNotified,
  lapsed: say.shell.stepLapsed,
  dismissed: say.shell.stepDismissed,
  'called-off': say.shell.stepCalledOff,
  written: say.shell.stepWritten,
}

/** An answer as it reads; only yes and no are ours, the rest is the client's or the host's. */
export function answerInWords({ what, kind }: Pick<Schemas['Fact'], 'what' | 'kind'>): string {
  if (kind !== 'yes-no' && kind !== 'terms') return what
  return what === 'yes' ? say.kit.yes : say.kit.no
}

/** How a booking stands, in words. */
export const stateWords: Record<Schemas['HostBooking']['state'], string> = {
  unproved: say.shell.isUnproved,
  requested: say.shell.isRequested,
  booked: say.shell.isBooked,
  attended: say.shell.isAttended,
  'no-show': say.shell.isNoShow,
  cancelled: say.shell.isCancelled,
  declined: say.shell.isDeclined,
  expired: say.shell.isExpired,
  scheduled: say.shell.isScheduled,
  waiting: say.shell.isWaiting,
  offered: say.shell.isOffered,
}
