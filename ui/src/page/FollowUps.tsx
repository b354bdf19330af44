import { useState } from 'react'
import { api, need, type Refusal, refusalOf, type Schemas } from '../api/client'
import { Button, Need } from '../kit/kit'
import { secretOf } from './link'
import { said, useTexts } from './texts'

type Booking = Schemas['ClientBooking']

interface Props {
  booking: Booking
  onChange: (booking: Booking) => void
}

/** Whether mail comes after meetings, and the press that changes it: there for who follows the link in such a mail, and for who has ended it. */
export function FollowUps({ booking, onChange }: Props) {
  const t = useTexts()
  const [refusal, setRefusal] = useState<Refusal | null>(null)
  const [led] = useState(() => new URLSearchParams(location.search).get('answer') === 'leave')
  if (!led && !booking.left) return null
  const set = async () => {
    try {
      const params = { path: { link: secretOf(booking) } }
      onChange(await need(api.POST('/bookings/{link}/follow-ups', { params, body: { wanted: booking.left ?? false } })))
    } catch (error) {
      setRefusal(refusalOf(error))
    }
  }
  return (
    <div className="mt-3">
      <span role="status">{booking.left ? t.followUpsLeft : t.followUpsCome}</span>{' '}
      <Button kind="text" onClick={set}>
        {booking.left ? t.followUpsAgain : t.followUpsLeave}
      </Button>
      {refusal && <Need className="mt-2">{said(t, refusal.told)}</Need>}
    </div>
  )
}
