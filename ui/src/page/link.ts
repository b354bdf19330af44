import type { Schemas } from '../api/client'

/** The secret of the booking's link. */
export function secretOf(booking: Schemas['ClientBooking']): string {
  return booking.link.slice('/b/'.length)
}

/** For what opens at a press and takes the place of what was pressed. */
export const intoFocus = (element: HTMLElement | null) => element?.focus()
