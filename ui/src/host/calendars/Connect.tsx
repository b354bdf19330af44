import { type ChangeEvent, type DragEvent, type FormEvent, useState } from 'react'
import { api, need, type Schemas } from '../../api/client'
import { Button, Need, TextField } from '../../kit/kit'
import { say } from '../../say'
import { useCalendarChange } from '../queries'

const empty = { address: '', username: '', password: '' }

/** Three ways to bring calendars in: an account, an address, a file. */
export function Connect() {
  return (
    <>
      <ConnectAccount />
      <Subscribe />
      <AddFile />
    </>
  )
}

const nothing = { name: '', address: '' }

/** A calendar that is fetched from an iCalendar address. */
function Subscribe() {
  const [typed, setTyped] = useState(nothing)
  const add = useCalendarChange((body: Schemas['Subscription']) => need(api.POST('/calendars/subscriptions', { body })))
  const submit = (event: FormEvent) => {
    event.preventDefault()
    add.mutate(typed, { onSuccess: () => setTyped(nothing) })
  }
  const set = (field: keyof typeof nothing) => (event: { target: { value: string } }) => {
    add.reset()
    setTyped({ ...typed, [field]: event.target.value })
  }
  return (
    <form onSubmit={submit} className="mt-8 grid gap-4" noValidate aria-label={say.calendars.addCalendarsAddress}>
      <h2>{say.calendars.subscribeCalendarLink}</h2>
      <TextField
        label={say.calendars.addressCalendar}
        placeholder={say.calendars.addressesOfCalendars}
        inputMode="url"
        autoComplete="off"
        value={typed.address}
        onChange={set('address')}
        problem={add.error?.fields.address}
      />
      <TextField label={say.calendars.nameHere} autoComplete="off" value={typed.name} onChange={set('name')} />
      {add.error && !add.error.fields.address && <Need>{add.error.message}</Need>}
      <p>
        <Button type="submit" disabled={add.isPending}>
          {add.isPending ? say.calendars.fetching : say.calendars.addCalendar}
        </Button>
      </p>
    </form>
  )
}

/** A calendar from a file, chosen or dropped. */
function AddFile() {
  const add = useCalendarChange((body: Schemas['CalendarFile']) => need(api.POST('/calendars/files', { body })))
  const [over, setOver] = useState(false)
  const take = async (file: File | undefined) => {
    if (file) add.mutate({ name: file.name, text: await file.text() })
  }
  const drop = (event: DragEvent) => {
    event.preventDefault()
    setOver(false)
    void take(event.dataTransfer.files[0])
  }
  const problem = add.error?.fields.file ?? add.error?.message
  return (
    <section
      aria-label={say.calendars.aCalendarFile}
      className={`mt-8 border border-dashed px-4 py-3 text-note ${over ? 'border-act bg-act-soft' : 'border-ink-3'}`}
      onDragOver={(event) => {
        event.preventDefault()
        setOver(true)
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
    >
      <label className="cursor-pointer focus-within:outline-2">
        {say.calendars.dropIcsFileHere(<span className="link">{say.calendars.chooseOne}</span>)}
        <input
          type="file"
          accept=".ics,text/calendar"
          aria-label={say.calendars.calendarFile}
          className="sr-only"
          onChange={(event: ChangeEvent<HTMLInputElement>) => {
            void take(event.target.files?.[0])
            event.target.value = ''
          }}
        />
      </label>
      {problem && (
        <p role="alert" className="text-need">
          {problem}
        </p>
      )}
    </section>
  )
}

/** Connects the calendars of one account. What was typed stays until it worked. */
function ConnectAccount() {
  const [account, setAccount] = useState(empty)
  const connect = useCalendarChange((body: Schemas['Account']) => need(api.POST('/calendar-accounts', { body })))
  const submit = (event: FormEvent) => {
    event.preventDefault()
    connect.mutate(account, { onSuccess: () => setAccount(empty) })
  }
  const set = (field: keyof typeof empty) => (event: { target: { value: string } }) => {
    connect.reset()
    setAccount({ ...account, [field]: event.target.value })
  }
  const wrong = connect.error?.fields ?? {}
  return (
    <>
      <h2 className="pt-1">{say.calendars.connectCalendars}</h2>
      <p className="mt-1 mb-4 text-note text-ink-2">{say.calendars.overCaldavAddressUser}</p>
      <form onSubmit={submit} className="grid gap-4" noValidate aria-label={say.calendars.connectCalendars}>
        <TextField
          label={say.calendars.serverAddress}
          placeholder="https://calendar.example.org"
          inputMode="url"
          autoComplete="off"
          value={account.address}
          onChange={set('address')}
          problem={wrong.address}
        />
        <TextField
          label={say.calendars.userName}
          autoComplete="off"
          value={account.username}
          onChange={set('username')}
          problem={wrong.username}
        />
        <TextField
          label={say.calendars.password}
          type="password"
          autoComplete="off"
          value={account.password}
          onChange={set('password')}
        />
        {connect.error && <Need>{connect.error.message}</Need>}
        <p>
          <Button type="submit" disabled={connect.isPending}>
            {connect.isPending ? say.calendars.lookingCalendars : say.calendars.connect}
          </Button>
        </p>
      </form>
    </>
  )
}
