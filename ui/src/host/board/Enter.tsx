import { useQuery } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { api, need, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { Sheet } from '../../kit/Ask'
import { ClockField } from '../../kit/ClockField'
import { DateField } from '../../kit/DateField'
import { Button, Need, SelectField, TextArea, TextField } from '../../kit/kit'
import { say } from '../../say'
import { fieldClock, longDate, minuteText } from '../../time/time'
import { useMe, useStaff, useTypes } from '../queries'
import { useBoardChange } from './change'
import { Repeat } from './Repeat'

/** A stretch of a day of one's own. */
export interface Stretch {
  date: string
  from: number
  to: number
}

const kinds = { booking: say.board.aBooking, block: say.board.timeBlock, open: say.board.moreOpenTime }

/** What a drawn stretch is to be: a booking for a client, time that is blocked, or time that is open beyond the week. */
export function Enter({
  stretch,
  onDone,
  onMade,
}: {
  stretch: Stretch
  onDone: () => void
  onMade: (made: Schemas['Made'], client: string) => void
}) {
  const [at, setAt] = useState(stretch)
  const [kind, setKind] = useState<keyof typeof kinds>('booking')
  return (
    <Sheet open title={longDate(at.date)} onClose={onDone}>
      <div className="mb-3 flex gap-5" role="radiogroup" aria-label={say.board.whatItIs}>
        {Object.entries(kinds).map(([value, words]) => (
          <label key={value} className="flex items-center gap-1.5">
            <input
              type="radio"
              name="kind"
              checked={kind === value}
              onChange={() => setKind(value as keyof typeof kinds)}
            />
            {words}
          </label>
        ))}
      </div>
      <When at={at} onChange={setAt} withEnd={kind !== 'booking'} />
      {kind === 'booking' && <BookClient at={at} onMade={onMade} />}
      {kind === 'block' && <BlockTime at={at} onDone={onDone} />}
      {kind === 'open' && <OpenMore at={at} onDone={onDone} />}
    </Sheet>
  )
}

function When({ at, onChange, withEnd }: { at: Stretch; onChange: (at: Stretch) => void; withEnd: boolean }) {
  return (
    <div className="mb-3 grid grid-cols-3 gap-3">
      <DateField label={say.board.day} value={at.date} onChange={(date) => onChange({ ...at, date })} />
      <ClockField label={say.board.from} value={at.from} onChange={(from) => onChange({ ...at, from })} />
      {withEnd && (
        <ClockField
          end
          label={say.board.until}
          value={at.to}
          onChange={(until) => onChange({ ...at, to: until || 1440 })}
        />
      )}
    </div>
  )
}

function BlockTime({ at, onDone }: { at: Stretch; onDone: () => void }) {
  const [label, setLabel] = useState('')
  const add = useBoardChange(() => need(api.POST('/blocks', { body: { ...at, label } })))
  const submit = (event: FormEvent) => {
    event.preventDefault()
    add.mutate(undefined, { onSuccess: onDone })
  }
  return (
    <form onSubmit={submit} className="grid gap-3" noValidate>
      <TextField
        label={say.board.whatFor}
        placeholder={say.board.optionalOnlyYouSee}
        value={label}
        onChange={(event) => setLabel(event.target.value)}
      />
      <Wrong error={add.error} />
      <p>
        <Button type="submit" disabled={add.isPending}>
          {say.board.block(minuteText(at.from), minuteText(at.to))}
        </Button>
      </p>
    </form>
  )
}

/** Extra hours on that day, as they also stand among the hours. */
function OpenMore({ at, onDone }: { at: Stretch; onDone: () => void }) {
  const hours = `${fieldClock(at.from)}-${fieldClock(at.to)}`
  const open = useBoardChange(() => need(api.POST('/hours/differing', { body: { text: `${at.date} extra ${hours}` } })))
  return (
    <form
      className="grid gap-3"
      noValidate
      onSubmit={(event) => {
        event.preventDefault()
        open.mutate(undefined, { onSuccess: onDone })
      }}
    >
      <p className="text-note text-ink-2">{say.board.widensDayAllYour}</p>
      <Wrong error={open.error} />
      <p>
        <Button type="submit" disabled={open.isPending}>
          {say.board.openToo(minuteText(at.from), minuteText(at.to))}
        </Button>
      </p>
    </form>
  )
}

const nobody = { name: '', mail: '', remark: '' }

/** A booking by hand. Outside the rules it is made only after the broken rules were named. */
function BookClient({ at, onMade }: { at: Stretch; onMade: (made: Schemas['Made'], client: string) => void }) {
  const me = useMe().data?.person
  const looksAfter = me?.role === 'owner' || me?.role === 'coordinator'
  const types = (useTypes(true).data ?? []).filter((t) => t.mine || looksAfter).sort((a, b) => +b.mine - +a.mine)
  const clients =
    useQuery({ queryKey: keys.onBoard('known-clients'), queryFn: () => need(api.GET('/known-clients')) }).data ?? []
  const [type, setType] = useState<number | null>(null)
  const [client, setClient] = useState(nobody)
  const [repeat, setRepeat] = useState('')
  const [without, setWithout] = useState<string[]>([])
  const [picked, setPicked] = useState<number | null>(null)
  const chosen = types.find((t) => t.id === type) ?? types[0]
  const host = picked ?? (chosen?.mine && me ? me.id : 0)
  const times = { type: chosen?.id ?? 0, date: at.date, minute: at.from, repeat, host }
  const book = useBoardChange((outside: boolean) =>
    need(api.POST('/host-bookings', { body: { ...times, without, outside, ...client } })),
  )
  const wrong = book.error?.fields ?? {}
  const warned = book.error?.kind === 'urn:corrim:problem:outside-rules'
  const set = (field: keyof typeof nobody) => (event: { target: { value: string } }) => {
    book.reset()
    setClient({ ...client, [field]: event.target.value })
  }
  const submit = (event: FormEvent) => {
    event.preventDefault()
    book.mutate(warned, { onSuccess: (made) => onMade(made, client.name) })
  }
  if (!chosen) return <p className="text-ink-2">{say.board.makeMeetingTypeFirst}</p>
  return (
    <form onSubmit={submit} className="grid gap-3" noValidate>
      <SelectField
        label={say.board.meetingType}
        value={chosen.id}
        onChange={(event) => {
          book.reset()
          setType(Number(event.target.value))
          setPicked(null)
        }}
      >
        {types.map((t) => (
          <option key={t.id} value={t.id}>
            {say.board.minutes(t.name, t.rules.duration)}
          </option>
        ))}
      </SelectField>
      <With
        hosts={chosen.hosts.filter((id) => id === me?.id || looksAfter)}
        shared={chosen.hosts.length > 1}
        me={me?.id}
        host={host}
        onChange={(to) => {
          book.reset()
          setPicked(to)
        }}
      />
      <Repeat
        times={times}
        without={without}
        onRepeat={(rule) => {
          book.reset()
          setRepeat(rule)
          setWithout([])
        }}
        onWithout={(dates) => {
          book.reset()
          setWithout(dates)
        }}
      />
      <TextField
        label={say.board.client}
        list="known-clients"
        autoComplete="off"
        value={client.name}
        problem={wrong.name}
        onChange={(event) => {
          book.reset()
          const name = event.target.value
          const known = clients.find((c) => c.name === name)
          setClient({ ...client, name, ...(known && !client.mail ? { mail: known.mail } : {}) })
        }}
      />
      <datalist id="known-clients">
        {clients.map(({ name, mail }) => (
          <option key={mail} value={name}>
            {mail}
          </option>
        ))}
      </datalist>
      <TextField label={say.board.mail} type="email" value={client.mail} problem={wrong.mail} onChange={set('mail')} />
      <TextArea
        label={say.board.remark}
        rows={2}
        value={client.remark}
        problem={wrong.remark}
        onChange={set('remark')}
      />
      <Wrong error={book.error} />
      <p>
        <Button type="submit" disabled={book.isPending}>
          {warned ? say.board.bookAnyway(minuteText(at.from)) : say.board.book(minuteText(at.from))}
        </Button>
      </p>
    </form>
  )
}

interface WithProps {
  hosts: number[]
  shared: boolean
  me: number | undefined
  host: number
  onChange: (host: number) => void
}

/** Who is to host a type that several host: one of them, or whoever its rule gives it to. */
function With({ hosts, shared, me, host, onChange }: WithProps) {
  const people = useStaff().data?.people ?? []
  if (!shared && hosts[0] === me) return null
  return (
    <SelectField label={say.board.host} value={host} onChange={(event) => onChange(Number(event.target.value))}>
      <option value={0}>{say.board.whoeverRuleGives}</option>
      {hosts.map((id) => (
        <option key={id} value={id}>
          {id === me ? 'me' : people.find((p) => p.id === id)?.name}
        </option>
      ))}
    </SelectField>
  )
}

function Wrong({ error }: { error: { message: string; fields: Record<string, string> } | null }) {
  if (!error) return null
  const { date, to, text, host } = error.fields
  return <Need>{date ?? to ?? text ?? host ?? error.message}</Need>
}
