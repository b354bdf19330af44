import type { Schemas } from '../../api/client'
import { say } from '../../say'

/** What is edited of a booking page; which version it was is kept apart. */
export type Draft = Omit<Schemas['OfferChange'], 'version'>

/** What the fields are called, where what was changed is named. */
export const fieldWords: Record<keyof Draft, string> = {
  listing: say.offer.listing,
  category: say.offer.category,
  picture: say.offer.changedPicture,
  colour: say.offer.colour,
  ways: say.offer.changedWays,
  questions: say.offer.changedQuestions,
  guests: say.offer.changedGuests,
  along: say.offer.along,
  hideLeft: say.offer.along,
  onRequest: say.offer.howConfirmed,
  keepHours: say.offer.hoursDecide,
  several: say.offer.whoseRequestedTime,
  proof: say.offer.verification,
  waiting: say.offer.waitingList,
  waitHours: say.offer.waitingList,
  least: say.offer.leastNumber,
  leastHours: say.offer.leastNumber,
  leastAsk: say.offer.leastNumber,
  perClient: say.offer.bookingsOneClient,
  moveUntil: say.offer.untilWhenMayMoved,
  cancelUntil: say.offer.untilWhenMayCancelled,
  correctUntil: say.offer.untilWhenMayCorrected,
  askReason: say.offer.reasonCancelling,
  declineCancels: say.offer.whatDecliningDoes,
  afterWords: say.offer.whatComesAfter,
  afterAddress: say.offer.whatComesAfter,
  afterPass: say.offer.whatComesAfter,
  always: say.offer.whoToldEachBooking,
  notes: say.offer.notesHosts,
  checklist: say.offer.checklist,
}
