import { type FormEvent, useState } from 'react'
import { api, need, type Refusal, refusalOf, type Schemas } from '../api/client'
import { Button, Need, TextField } from '../kit/kit'
import { intoFocus, secretOf } from './link'
import { said, useTexts } from './texts'

interface Props {
  booking: Schemas['ClientBooking']
  /** How many seats of the same person can be given with it, itself among them. */
  seats: number
  onGiven: (booking: Schemas['ClientBooking']) => void
  onKeep: () => void
}

/** To whom a seat is given; of several, this one or all. */
export function GivePanel({ booking, seats, onGiven, onKeep }: Props) {
  const t = useTexts()
  const [to, setTo] = useState({ name: '', mail: '', all: false })
  const [refusal, setRefusal] = useState<Refusal | null>(null)
  const problems = refusal?.toldOf ?? {}
  const problem = (field: string) => problems[field] && said(t, problems[field])
  const give = async (event: FormEvent) => {
    event.preventDefault()
    try {
      const path = { link: secretOf(booking) }
      onGiven(await need(api.POST('/bookings/{link}/give', { params: { path }, body: to })))
    } catch (error) {
      setRefusal(refusalOf(error))
    }
  }
  return (
    <form
      aria-labelledby="give-head"
      className="mt-6 grid max-w-xl gap-4 border-t-3 border-act bg-sheet px-5 py-4"
      onSubmit={give}
      noValidate
    >
      <h2 id="give-head" ref={intoFocus} tabIndex={-1} className="outline-none">
        {t.giveAsk}
      </h2>
      <p className="text-note text-ink-2">{t.giveHint}</p>
      <TextField
        label={t.newName}
        aria-required
        value={to.name}
        onChange={(event) => setTo({ ...to, name: event.target.value })}
        problem={problem('name')}
      />
      <TextField
        label={t.newMail}
        aria-required
        type="email"
        value={to.mail}
        onChange={(event) => setTo({ ...to, mail: event.target.value })}
        problem={problem('mail')}
      />
      {seats > 1 && (
        <label className="flex items-baseline gap-2">
          <input
            type="checkbox"
            className="accent-act"
            checked={to.all}
            onChange={(event) => setTo({ ...to, all: event.target.checked })}
          />
          {t.allSeats(seats)}
        </label>
      )}
      {refusal && Object.keys(problems).length === 0 && (
        <Need>{refusal.status === 0 ? t.away : said(t, refusal.told)}</Need>
      )}
      <div className="flex gap-3">
        <Button type="submit">{t.giveYes}</Button>
        <Button kind="plain" onClick={onKeep}>
          {t.keepIt}
        </Button>
      </div>
    </form>
  )
}
