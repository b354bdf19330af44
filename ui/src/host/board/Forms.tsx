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

/** Called off, for one client or for all who share the meeting, with a word. */
export function CancelForm({ id, all, onDone }: { id: number; all?: number; onDone: () => void }) {
  const [word, setWord] = useState('')
  const cancel = useBoardChange(() => {
    const of = { params: { path: { id } }, body: { word } }
    return need(all ? api.POST('/host-bookings/{id}/cancel-for-all', of) : api.POST('/host-bookings/{id}/cancel', of))
  })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    cancel.mutate(undefined, { onSuccess: onDone })
  }
  return (
    <form
      onSubmit={submit}
      className="grid gap-3"
      noValidate
      aria-label={all ? say.board.cancelForAll : say.board.cancelIt}
    >
      <TextField
        label={all ? say.board.messageAll : say.board.messageClient}
        placeholder={say.board.optional}
        value={word}
        onChange={(event) => setWord(event.target.value)}
      />
      {cancel.error && <Need>{cancel.error.message}</Need>}
      <p>
        <Button type="submit" kind="plain" disabled={cancel.isPending}>
          {all ? say.board.cancelForAllOf(all) : say.board.cancelMeeting}
        </Button>
      </p>
    </form>
  )
}
