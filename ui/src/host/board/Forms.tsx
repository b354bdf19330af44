import { type FormEvent, useState } from 'react'
import { api, need } from '../../api/client'
import { ClockField } from '../../kit/ClockField'
import { DateField } from '../../kit/DateField'
import { Button, Need, TextField } from '../../kit/kit'
import { say } from '../../say'
import { minuteText } from '../../time/time'
import { useBoardChange } from './change'

interface MoveProps {
  id: number
  /** Where it is. */
  date: string
  minute: number
  onDone: () => void
}

/** To another day or time; outside the rules only after these were named. */
export function MoveForm({ id, date, minute, onDone }: MoveProps) {
  const [to, setTo] = useState({ date, minute })
  const shown = minuteText(to.minute)
  const move = useBoardChange((outside: boolean) =>
    need(
      api.POST('/host-bookings/{id}/move', {
        params: { path: { id } },
        body: { ...to, outside },
      }),
    ),
  )
  const warned = move.error?.kind === 'urn:corrim:problem:outside-rules'
  const change = (next: Partial<typeof to>) => {
    move.reset()
    setTo({ ...to, ...next })
  }
  const submit = (event: FormEvent) => {
    event.preventDefault()
    move.mutate(warned, { onSuccess: onDone })
  }
  return (
    <form onSubmit={submit} className="grid gap-3" noValidate aria-label={say.board.moveIt}>
      <div className="grid grid-cols-2 gap-3">
        <DateField label={say.board.day} value={to.date} onChange={(date) => change({ date })} />
        <ClockField label={say.board.from} value={to.minute} onChange={(minute) => change({ minute })} />
      </div>
      {move.error && <Need>{move.error.fields.date ?? move.error.message}</Need>}
      <p>
        <Button type="submit" disabled={move.isPending}>
          {warned ? say.board.moveAnyway(shown) : say.board.moveTo(shown)}
        </Button>
      </p>
    </form>
  )
}

/** Called off, with a word to the client. */
export function CancelForm({ id, onDone }: { id: number; onDone: () => void }) {
  const [word, setWord] = useState('')
  const cancel = useBoardChange(() =>
    need(api.POST('/host-bookings/{id}/cancel', { params: { path: { id } }, body: { word } })),
  )
  const submit = (event: FormEvent) => {
    event.preventDefault()
    cancel.mutate(undefined, { onSuccess: onDone })
  }
  return (
    <form onSubmit={submit} className="grid gap-3" noValidate aria-label={say.board.cancelIt}>
      <TextField
        label={say.board.messageClient}
        placeholder={say.board.optional}
        value={word}
        onChange={(event) => setWord(event.target.value)}
      />
      {cancel.error && <Need>{cancel.error.message}</Need>}
      <p>
        <Button type="submit" kind="plain" disabled={cancel.isPending}>
          {say.board.cancelMeeting}
        </Button>
      </p>
    </form>
  )
}
