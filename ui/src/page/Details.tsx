import { type FormEvent, useEffect, useRef, useState } from 'react'
import type { Refusal, Schemas } from '../api/client'
import { Button, Need, TextArea, TextField } from '../kit/kit'
import { clock, longDate, wallClock } from '../time/time'

export interface Typed {
  name: string
  mail: string
  remark: string
}

interface Props {
  page: Schemas['Page']
  zone: string
  start: Date | null
  typed: Typed
  onType: (typed: Typed) => void
  onBook: () => Promise<void>
  refusal: Refusal | null
  onNearest: (start: Date) => void
}

/** The client's details. Nothing typed here is ever lost, whatever the answer. */
export function Details({ page, zone, start, typed, onType, onBook, refusal, onNearest }: Props) {
  const [busy, setBusy] = useState(false)
  const form = useRef<HTMLFormElement>(null)
  const submit = async (event: FormEvent) => {
    event.preventDefault()
    if (!start) return
    setBusy(true)
    await onBook()
    setBusy(false)
  }
  // Whatever has to be mended is where the client looks next.
  useEffect(() => {
    if (refusal) form.current?.querySelector<HTMLElement>('[aria-invalid=true], [data-refused] button')?.focus()
  }, [refusal])
  const problems = refusal?.fields ?? {}
  const set = (field: keyof Typed) => (event: { target: { value: string } }) =>
    onType({ ...typed, [field]: event.target.value })
  return (
    <form
      ref={form}
      id="details"
      noValidate
      onSubmit={submit}
      aria-labelledby="details-head"
      className="scroll-mt-4 border-t-3 border-act bg-sheet px-5 pt-4 pb-5"
    >
      <h2 id="details-head">Your details</h2>
      {refusal && Object.keys(problems).length === 0 && <Taken refusal={refusal} zone={zone} onNearest={onNearest} />}
      <div className="mt-3 grid gap-3.5">
        <TextField label="Name" autoComplete="name" value={typed.name} onChange={set('name')} problem={problems.name} />
        <TextField
          label="Mail"
          type="email"
          autoComplete="email"
          value={typed.mail}
          onChange={set('mail')}
          problem={problems.mail}
        />
        <TextArea
          label={`Anything ${/^[A-Z]/.test(page.host) && !/ and |,/.test(page.host) && page.choice.length < 2 ? page.host.split(' ')[0] : 'we'} should know?`}
          placeholder="optional"
          value={typed.remark}
          onChange={set('remark')}
          problem={problems.remark}
        />
      </div>
      <div className="mt-4 flex items-center gap-4">
        <Button type="submit" disabled={!start || busy}>
          {start ? `Book ${clock(start, zone)}` : 'Choose a time first'}
        </Button>
        <p className="text-small text-ink-2">
          {start
            ? `${longDate(wallClock(start, zone).date)}. You can move or cancel by the link in your mail.`
            : 'Press a day, then a time.'}
        </p>
      </div>
    </form>
  )
}

/** Why it could not be booked; for a time that was taken, the nearest open ones. */
function Taken({ refusal, zone, onNearest }: { refusal: Refusal; zone: string; onNearest: (start: Date) => void }) {
  return (
    <Need className="mt-3">
      <p className="text-need">{refusal.message}</p>
      {refusal.nearest.length > 0 && (
        <p className="mt-1" data-refused>
          Open nearby:{' '}
          {refusal.nearest.map((text) => {
            const at = new Date(text)
            return (
              <button
                key={text}
                type="button"
                className="link figures mr-3 font-semibold"
                onClick={() => onNearest(at)}
              >
                {longDate(wallClock(at, zone).date).slice(0, 3)} {clock(at, zone)}
              </button>
            )
          })}
        </p>
      )}
    </Need>
  )
}
