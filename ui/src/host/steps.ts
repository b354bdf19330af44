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
  expired: 'Expired',
  rescheduled: 'Moved',
  cancelled: 'Cancelled',
  asked: 'Asked to choose again',
  reassigned: 'Handed over',
  confirmed: 'Says they come',
  corrected: 'Corrected by the client',
  attended: 'Attended',
  'no-show': 'No-show',
  unmarked: 'Attendance reopened',
}

/** How a booking stands, in words. */
export const stateWords: Record<Schemas['HostBooking']['state'], string> = {
  unproved: 'waits for its code',
  requested: 'requested',
  booked: 'booked',
  attended: 'attended',
  'no-show': 'no-show',
  cancelled: 'cancelled',
  declined: 'declined',
  expired: 'expired',
}
