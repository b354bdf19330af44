import type { Schemas } from '../../api/client'
import { say } from '../../say'

/** What is edited of a booking page; which version it was is kept apart. */
export type Draft = Omit<Schemas['BookingPageChange'], 'version'>

/** What the fields are called, where what was changed is named. */
export const fieldWords: Record<keyof Draft, string> = {
  listing: say.bookingPage.listing,
  category: say.bookingPage.category,
  picture: say.bookingPage.changedPicture,
  colour: say.bookingPage.colour,
  ways: say.bookingPage.changedWays,
  questions: say.bookingPage.changedQuestions,
  guests: say.bookingPage.changedGuests,
  along: say.bookingPage.along,
  hideLeft: say.bookingPage.along,
  onRequest: say.bookingPage.howConfirmed,
  keepHours: say.bookingPage.hoursDecide,
  several: say.bookingPage.whoseRequestedTime,
  proof: say.bookingPage.verification,
  waiting: say.bookingPage.waitingList,
  waitHours: say.bookingPage.waitingList,
  least: say.bookingPage.leastNumber,
  leastHours: say.bookingPage.leastNumber,
  leastAsk: say.bookingPage.leastNumber,
  perClient: say.bookingPage.bookingsOneClient,
  moveUntil: say.bookingPage.untilWhenMayMoved,
  cancelUntil: say.bookingPage.untilWhenMayCancelled,
  correctUntil: say.bookingPage.untilWhenMayCorrected,
  askReason: say.bookingPage.reasonCancelling,
  declineCancels: say.bookingPage.whatDecliningDoes,
  afterWords: say.bookingPage.whatComesAfter,
  afterAddress: say.bookingPage.whatComesAfter,
  afterPass: say.bookingPage.whatComesAfter,
  always: say.bookingPage.whoToldEachBooking,
  notes: say.bookingPage.notesHosts,
  checklist: say.bookingPage.checklist,
}
