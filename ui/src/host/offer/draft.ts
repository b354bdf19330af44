import type { Schemas } from '../../api/client'

/** What is edited of a booking page; which version it was is kept apart. */
export type Draft = Omit<Schemas['OfferChange'], 'version'>

/** What the fields are called, where what was changed is named. */
export const fieldWords: Record<keyof Draft, string> = {
  listing: 'listing',
  category: 'category',
  picture: 'picture',
  colour: 'colour',
  ways: 'ways of meeting',
  questions: 'questions',
  guests: 'guests',
  onRequest: 'how it is confirmed',
  keepHours: 'hours to decide',
  several: 'whose a requested time is',
  proof: 'verification',
  perClient: 'bookings of one client',
  moveUntil: 'until when it may be moved',
  cancelUntil: 'until when it may be cancelled',
  correctUntil: 'until when it may be corrected',
  askReason: 'reason for cancelling',
  afterWords: 'what comes after',
  afterAddress: 'what comes after',
  afterPass: 'what comes after',
  always: 'who is told of each booking',
  notes: 'notes for hosts',
  checklist: 'checklist',
}
