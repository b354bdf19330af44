import { type FormEvent, useState } from 'react'
import { api, need, type Schemas } from '../../api/client'
import { ClockField } from '../../kit/ClockField'
import { DateField } from '../../kit/DateField'
import { Button, Need, TextArea, TextField, whole } from '../../kit/kit'
import { say } from '../../say'
import { minuteText } from '../../time/time'
import { OwnDetails } from '../bookingpage/OwnDetails'
import { useBoardChange } from './change'

interface MoveProps {
  id: number
  /** Of the booking as it is shown. */
  version: number
  /** Where it is. */
  date: string
  minute: number
  onDone: () => void
}

/** To another day or time; outside the rules only after these were named. */
export function MoveForm({ id, version, date, minute, onDone }: MoveProps) {
  const [to, setTo] = useState({ date, minute })
  const shown = minuteText(to.minute)
  const move = useBoardChange((outside: boolean) =>
    need(
      api.POST('/host-bookings/{id}/move', {
        params: { path: { id } },
        body: { ...to, outside, version },
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

interface DetailsProps {
  id: number
  details: Schemas['SessionDetails']
  /** The names of all who have a seat. */
  all: string[]
  onDone: () => void
}

interface CancelProps {
  id: number
  /** The names of all who share the meeting, if it is for all. */
  all?: string[]
  session?: boolean
  /** Whether they only wait for a seat. */
  listed?: boolean
  /** How many come after it that can be called off with it. */
  after?: number
  onDone: () => void
}

/** Called off, for one client or for all who share the meeting, with a word; who is told of it stands there before. */
export function CancelForm({ id, all, session = false, listed = false, after = 0, onDone }: CancelProps) {
  const [word, setWord] = useState('')
  const [rest, setRest] = useState(false)
  const cancel = useBoardChange(() => {
    const of = { params: { path: { id } }, body: { word, rest } }
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
      aria-label={
        listed
          ? say.board.takeOffList
          : !all
            ? say.board.cancelIt
            : session
              ? say.board.callOff
              : say.board.cancelForAll
      }
    >
      {all && <p className="text-note text-ink-2">{say.board.areTold(all)}</p>}
      {after > 0 && (
        <Rest checked={rest} onChange={setRest}>
          {all ? say.board.alsoAfterTold(after) : say.board.alsoSeats(after)}
        </Rest>
      )}
      {(all?.length !== 0 || rest) && (
        <TextField
          label={all ? say.board.messageAll : say.board.messageClient}
          placeholder={say.board.optional}
          value={word}
          onChange={(event) => setWord(event.target.value)}
        />
      )}
      {cancel.error && <Need>{cancel.error.message}</Need>}
      <p>
        <Button type="submit" kind="plain" disabled={cancel.isPending}>
          {listed
            ? say.board.takeOffList
            : !all
              ? say.board.cancelMeeting
              : session
                ? say.board.callOffSession
                : say.board.cancelForAllOf(all.length)}
        </Button>
      </p>
    </form>
  )
}

/** Whether what comes after it in the series is meant too. */
function Rest({
  checked,
  onChange,
  children,
}: {
  checked: boolean
  onChange: (to: boolean) => void
  children: string
}) {
  return (
    <label className="flex items-baseline gap-2">
      <input
        type="checkbox"
        className="accent-act"
        checked={checked}
        onChange={(event) => onChange(event.target.checked)}
      />
      {children}
    </label>
  )
}

/** A seat given by hand: beyond the number, or to somebody who comes already, only after that was named. */
export function AddForm({ id, after, onDone }: { id: number; after: number; onDone: () => void }) {
  const [who, setWho] = useState({ name: '', mail: '' })
  const [rest, setRest] = useState(false)
  const add = useBoardChange((outside: boolean) =>
    need(api.POST('/host-bookings/{id}/seats', { params: { path: { id } }, body: { ...who, rest, outside } })),
  )
  const warned = add.error?.kind === 'urn:corrim:problem:outside-rules'
  const wrong = add.error?.fields ?? {}
  const set = (field: keyof typeof who) => (event: { target: { value: string } }) => {
    add.reset()
    setWho({ ...who, [field]: event.target.value })
  }
  const submit = (event: FormEvent) => {
    event.preventDefault()
    add.mutate(warned, { onSuccess: onDone })
  }
  return (
    <form onSubmit={submit} className="grid gap-3" noValidate aria-label={say.board.addSomebody}>
      <TextField label={say.board.client} value={who.name} problem={wrong.name} onChange={set('name')} />
      <TextField label={say.board.mail} type="email" value={who.mail} problem={wrong.mail} onChange={set('mail')} />
      {after > 0 && (
        <Rest
          checked={rest}
          onChange={(to) => {
            add.reset()
            setRest(to)
          }}
        >
          {say.board.alsoAfter(after)}
        </Rest>
      )}
      {add.error && !wrong.name && !wrong.mail && <Need>{add.error.message}</Need>}
      <p>
        <Button type="submit" disabled={add.isPending}>
          {warned ? say.board.giveSeatAnyway : say.board.giveSeat}
        </Button>
      </p>
    </form>
  )
}

/** How many seats this meeting has, whatever its type has. */
export function SeatsForm({ id, seats, onDone }: { id: number; seats: number; onDone: () => void }) {
  const [wanted, setWanted] = useState(String(seats))
  const set = useBoardChange(() =>
    need(api.POST('/host-bookings/{id}/seat-count', { params: { path: { id } }, body: { seats: whole(wanted) } })),
  )
  const submit = (event: FormEvent) => {
    event.preventDefault()
    set.mutate(undefined, { onSuccess: onDone })
  }
  return (
    <form onSubmit={submit} className="flex flex-wrap items-end gap-3" noValidate aria-label={say.board.changeSeats}>
      <TextField
        label={say.board.seats}
        type="number"
        min={2}
        max={1000}
        value={wanted}
        problem={set.error ? (set.error.fields.seats ?? set.error.message) : undefined}
        onChange={(event) => {
          set.reset()
          setWanted(event.target.value)
        }}
      />
      <Button type="submit" disabled={set.isPending}>
        {say.board.setSeats}
      </Button>
    </form>
  )
}

/** What is special about a session; whoever has a seat in it is told. */
export function DetailsForm({ id, details, all, onDone }: DetailsProps) {
  const [draft, setDraft] = useState(details)
  const set = useBoardChange(() =>
    need(api.POST('/host-bookings/{id}/details', { params: { path: { id } }, body: draft })),
  )
  const submit = (event: FormEvent) => {
    event.preventDefault()
    set.mutate(undefined, { onSuccess: onDone })
  }
  return (
    <form onSubmit={submit} className="mt-2 grid gap-3" noValidate aria-label={say.board.changeDetails}>
      <OwnDetails
        details={draft}
        wrong={set.error?.fields ?? {}}
        onChange={(next) => {
          set.reset()
          setDraft(next)
        }}
      />
      {all.length > 0 && <p className="text-note text-ink-2">{say.board.areTold(all)}</p>}
      {set.error && Object.keys(set.error.fields).length === 0 && <Need>{set.error.message}</Need>}
      <p>
        <Button type="submit" disabled={set.isPending}>
          {say.board.saveDetails}
        </Button>
      </p>
    </form>
  )
}

/** A mail to everybody who has a seat, each on their own. */
export function WriteForm({ id, all, onDone }: { id: number; all: string[]; onDone: () => void }) {
  const [word, setWord] = useState('')
  const write = useBoardChange(() =>
    need(api.POST('/host-bookings/{id}/write-to-all', { params: { path: { id } }, body: { word } })),
  )
  const submit = (event: FormEvent) => {
    event.preventDefault()
    write.mutate(undefined, { onSuccess: onDone })
  }
  return (
    <form onSubmit={submit} className="grid gap-3" noValidate aria-label={say.board.writeAll}>
      <p className="text-note text-ink-2">{say.board.areWritten(all)}</p>
      <TextArea
        label={say.board.messageAll}
        rows={3}
        value={word}
        problem={write.error?.fields.word}
        onChange={(event) => {
          write.reset()
          setWord(event.target.value)
        }}
      />
      {write.error && !write.error.fields.word && <Need>{write.error.message}</Need>}
      <p>
        <Button type="submit" disabled={write.isPending}>
          {say.board.sendToAll(all.length)}
        </Button>
      </p>
    </form>
  )
}
