import type { Schemas } from '../api/client'

/** The steps of a booking's life, in words. */
export const stepWords: Record<Schemas['Recent']['kind'], string> = {
  held: 'Waits for its code',
  requested: 'Requested',
  booked: 'Booked',
  approved: 'Approved',
  declined: 'Declined',
  proposed: 'Other times proposed',
  taken: 'A proposed time taken',
  lapsed: 'Not decided in time',
  moved: 'Moved',
  cancelled: 'Cancelled',
  asked: 'Asked to choose again',
  handed: 'Handed over',
  confirmed: 'Says they come',
  corrected: 'Corrected by the client',
  came: 'Came',
  missed: 'Did not come',
  unmarked: 'Attendance open again',
}

/** How a booking stands, in words. */
export const stateWords: Record<Schemas['HostBooking']['state'], string> = {
  unproved: 'waits for its code',
  requested: 'requested',
  booked: 'booked',
  came: 'came',
  missed: 'did not come',
  cancelled: 'cancelled',
  declined: 'declined',
  lapsed: 'not decided in time',
}
