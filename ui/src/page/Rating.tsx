import { type FormEvent, useEffect, useRef, useState } from 'react'
import { api, need, type Refusal, refusalOf, type Schemas } from '../api/client'
import { Button, Need, TextArea } from '../kit/kit'
import { secretOf } from './link'
import { said, useTexts } from './texts'

type Booking = Schemas['ClientBooking']

const marks = [1, 2, 3, 4, 5]

/** Once it is over, its client says how it was; afterwards, what they said. */
export function Rating({ booking, onRated }: { booking: Booking; onRated: (booking: Booking) => void }) {
  const t = useTexts()
  const [rating, setRating] = useState(0)
  const [remark, setRemark] = useState('')
  const [refusal, setRefusal] = useState<Refusal | null>(null)
  const sent = useRef(false)
  const told = useRef<HTMLParagraphElement>(null)
  // The form goes away once it is sent, and the focus would be lost.
  useEffect(() => {
    if (sent.current && booking.rated) told.current?.focus()
  }, [booking.rated])
  if (booking.rated) {
    return (
      <p className="mt-3 outline-none" tabIndex={-1} ref={told}>
        {t.rated(booking.rated.rating)}
      </p>
    )
  }
  const send = async (event: FormEvent) => {
    event.preventDefault()
    sent.current = true
    try {
      onRated(
        await need(
          api.POST('/bookings/{link}/rate', {
            params: { path: { link: secretOf(booking) } },
            body: { rating, remark },
          }),
        ),
      )
    } catch (error) {
      setRefusal(refusalOf(error))
    }
  }
  const missing = refusal?.toldOf.rating
  const wrong = refusal?.toldOf.remark
  return (
    <form onSubmit={send} noValidate className="mt-4 max-w-xl border-t-3 border-act bg-sheet px-5 py-4">
      <fieldset aria-describedby={missing && 'rating-missing'}>
        <legend className="font-head text-[19px]">{t.rateAsk}</legend>
        <div className="mt-3 flex gap-2">
          {marks.map((mark) => (
            <label
              key={mark}
              className="figures grid h-11 min-w-11 cursor-pointer place-items-center rounded-(--radius) border border-ink-2 px-2 has-checked:border-act has-checked:bg-act has-checked:font-semibold has-checked:text-on-act has-focus-visible:outline-2 has-focus-visible:outline-offset-2 has-focus-visible:outline-act"
            >
              <input
                type="radio"
                name="rating"
                className="sr-only"
                aria-label={t.ratedOf(mark)}
                checked={rating === mark}
                onChange={() => {
                  setRating(mark)
                  setRefusal(null)
                }}
              />
              {mark}
            </label>
          ))}
        </div>
        <p className="mt-1 flex max-w-[15.5rem] justify-between gap-3 text-note text-ink-2">
          <span>{t.rateLow}</span>
          <span className="text-right">{t.rateHigh}</span>
        </p>
        {missing && (
          <p id="rating-missing" role="alert" className="text-note text-need">
            {said(t, missing)}
          </p>
        )}
      </fieldset>
      <div className="mt-4">
        <TextArea
          label={t.rateRemark}
          rows={2}
          value={remark}
          onChange={(event) => setRemark(event.target.value)}
          problem={wrong && said(t, wrong)}
        />
      </div>
      {refusal && !missing && !wrong && <Need className="mt-3">{said(t, refusal.told)}</Need>}
      <p className="mt-4">
        <Button type="submit">{t.rateSend}</Button>
      </p>
    </form>
  )
}
