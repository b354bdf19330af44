import { type FormEvent, useState } from 'react'
import { api, need, type Refusal, refusalOf, type Schemas } from '../api/client'
import { Button, Need, TextArea, TextField } from '../kit/kit'
import { intoFocus, secretOf } from './link'
import { Questions } from './Questions'
import { said, useTexts } from './texts'
import { whoIs } from './who'

interface Props {
  booking: Schemas['ClientBooking']
  correct: Schemas['Correctable']
  onCorrected: (booking: Schemas['ClientBooking']) => void
  onKeep: () => void
}

/** What the client wrote, to be written anew. */
export function CorrectPanel({ booking, correct, onCorrected, onKeep }: Props) {
  const t = useTexts()
  const [typed, setTyped] = useState({ said: correct.said, given: correct.given, remark: booking.remark })
  const [refusal, setRefusal] = useState<Refusal | null>(null)
  const problems = refusal?.toldOf ?? {}
  const problem = (field: string) => problems[field] && said(t, problems[field])
  const set = (field: 'given' | 'remark') => (event: { target: { value: string } }) =>
    setTyped({ ...typed, [field]: event.target.value })
  const save = async (event: FormEvent) => {
    event.preventDefault()
    try {
      const path = { link: secretOf(booking) }
      onCorrected(await need(api.POST('/bookings/{link}/correct', { params: { path }, body: typed })))
    } catch (error) {
      setRefusal(refusalOf(error))
    }
  }
  return (
    <form
      aria-labelledby="correct-head"
      className="mt-6 grid max-w-xl gap-4 border-t-3 border-act bg-sheet px-5 py-4"
      onSubmit={save}
      noValidate
    >
      <h2 id="correct-head" ref={intoFocus} tabIndex={-1} className="outline-none">
        {t.correct}
      </h2>
      {correct.asks === 'number' && (
        <TextField
          label={t.yourPhone}
          hint={t.phoneHint}
          type="tel"
          aria-required
          value={typed.given}
          onChange={set('given')}
          problem={problem('given')}
        />
      )}
      {correct.asks === 'address' && (
        <TextArea
          label={t.yourAddress}
          aria-required
          rows={2}
          value={typed.given}
          onChange={set('given')}
          problem={problem('given')}
        />
      )}
      <Questions
        questions={correct.questions}
        said={typed.said}
        onSay={(id, values) => setTyped({ ...typed, said: { ...typed.said, [id]: values } })}
        problems={problems}
      />
      <TextArea
        label={t.remark(whoIs(booking, t))}
        placeholder={t.optional}
        rows={3}
        value={typed.remark}
        onChange={set('remark')}
        problem={problem('remark')}
      />
      {refusal && Object.keys(problems).length === 0 && (
        <Need>{refusal.status === 0 ? t.away : said(t, refusal.told)}</Need>
      )}
      <div className="flex gap-3">
        <Button type="submit">{t.correctSave}</Button>
        <Button kind="plain" onClick={onKeep}>
          {t.correctKeep}
        </Button>
      </div>
    </form>
  )
}
