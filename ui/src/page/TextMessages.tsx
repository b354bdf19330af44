import { useState } from 'react'
import { api, need, type Refusal, refusalOf, type Schemas } from '../api/client'
import { Button, Need } from '../kit/kit'
import { secretOf } from './link'
import { said, useTexts } from './texts'

type Booking = Schemas['ClientBooking']

interface Props {
  booking: Booking
  texts: Schemas['TextsOf']
  onChange: (booking: Booking) => void
}

/** Whether text messages come, and the press that changes it. */
export function TextMessages({ booking, texts: { phone, stopped }, onChange }: Props) {
  const t = useTexts()
  const [refusal, setRefusal] = useState<Refusal | null>(null)
  const set = async () => {
    try {
      const params = { path: { link: secretOf(booking) } }
      onChange(await need(api.POST('/bookings/{link}/texts', { params, body: { wanted: stopped } })))
    } catch (error) {
      setRefusal(refusalOf(error))
    }
  }
  return (
    <div className="mt-3 text-note text-ink-2">
      <span role="status">{stopped ? t.textsStopped(phone) : t.textsCome(phone)}</span>{' '}
      <Button kind="text" onClick={set}>
        {stopped ? t.textsAgain : t.textsStop}
      </Button>
      {refusal && <Need className="mt-2">{said(t, refusal.told)}</Need>}
    </div>
  )
}
