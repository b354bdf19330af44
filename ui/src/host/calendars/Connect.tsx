import { type FormEvent, useState } from 'react'
import { api, need, type Schemas } from '../../api/client'
import { Button, Need, TextField } from '../../kit/kit'
import { useCalendarChange } from '../queries'

const empty = { address: '', username: '', password: '' }

/** Connects the calendars of one account. What was typed stays until it worked. */
export function Connect() {
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
      <h2 className="pt-1">Connect calendars</h2>
      <p className="mt-1 mb-4 text-note text-ink-2">
        Over CalDAV, with the address, user name and password of your calendar server. All calendars found there are
        connected; what each is used for, you choose afterwards.
      </p>
      <form onSubmit={submit} className="grid gap-4" noValidate aria-label="Connect calendars">
        <TextField
          label="Server address"
          placeholder="https://calendar.example.org"
          inputMode="url"
          autoComplete="off"
          value={account.address}
          onChange={set('address')}
          problem={wrong.address}
        />
        <TextField
          label="User name"
          autoComplete="off"
          value={account.username}
          onChange={set('username')}
          problem={wrong.username}
        />
        <TextField
          label="Password"
          type="password"
          autoComplete="off"
          value={account.password}
          onChange={set('password')}
        />
        {connect.error && <Need>{connect.error.message}</Need>}
        <p>
          <Button type="submit" disabled={connect.isPending}>
            {connect.isPending ? 'Looking for calendars …' : 'Connect'}
          </Button>
        </p>
      </form>
    </>
  )
}
