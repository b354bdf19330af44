import { type FormEvent, useState } from 'react'
import { useSearchParams } from 'react-router'
import { api, need, type Schemas } from '../../api/client'
import { Button, Need, TextField } from '../../kit/kit'
import { say } from '../../say'
import { stateWords } from '../steps'
import { Attendance } from '../today/Attendance'
import { useBoardChange } from './change'

/** All who share a meeting; pressing a name opens their booking. */
export function Participants({ of: b }: { of: Schemas['BookingSheet'] }) {
  const [search, setSearch] = useSearchParams()
  const begun = new Date(b.start) <= new Date()
  const open = (booking: number) => {
    search.set('booking', String(booking))
    setSearch(search)
  }
  return (
    <ul aria-label={say.board.whoComes}>
      {b.participants.map((one) => (
        <li key={one.booking}>
          {one.booking === b.id ? (
            <b className="font-semibold">{one.name}</b>
          ) : (
            <Button kind="text" onClick={() => open(one.booking)}>
              {one.name}
            </Button>
          )}{' '}
          {begun ? (
            <Attendance booking={{ id: one.booking, state: one.state }} />
          ) : (
            <span className="text-note text-ink-2">
              {one.confirmed && one.state === 'booked' ? say.today.saysTheyCome : stateWords[one.state]}
            </span>
          )}
        </li>
      ))}
    </ul>
  )
}

/** Cancels the meeting for everybody in it, with a word. */
export function CancelForAll({ id, clients, onDone }: { id: number; clients: number; onDone: () => void }) {
  const [word, setWord] = useState('')
  const cancel = useBoardChange(() =>
    need(api.POST('/host-bookings/{id}/cancel-for-all', { params: { path: { id } }, body: { word } })),
  )
  const submit = (event: FormEvent) => {
    event.preventDefault()
    cancel.mutate(undefined, { onSuccess: onDone })
  }
  return (
    <form onSubmit={submit} className="grid gap-3" noValidate aria-label={say.board.cancelForAll}>
      <TextField
        label={say.board.messageAll}
        placeholder={say.board.optional}
        value={word}
        onChange={(event) => setWord(event.target.value)}
      />
      {cancel.error && <Need>{cancel.error.message}</Need>}
      <p>
        <Button type="submit" kind="plain" disabled={cancel.isPending}>
          {say.board.cancelForAllOf(clients)}
        </Button>
      </p>
    </form>
  )
}
