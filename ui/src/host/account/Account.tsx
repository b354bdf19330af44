import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { hasChanged, keys } from '../../api/keys'
import { Button, Need, SelectField, TextField } from '../../kit/kit'
import { clock, shortDate, wallClock } from '../../time/time'
import { useMe } from '../queries'
import { View } from '../Shell'

/** One's own way in: password, mail address, and where one is signed in. */
export function Account() {
  const me = useMe().data?.person
  if (!me) return null
  return (
    <View title="Your account" note={me.mail}>
      <div className="grid max-w-xl grid-cols-[minmax(0,1fr)] gap-8">
        <SessionList zone={me.zone} />
        <Password />
        <Mail mail={me.mail} />
        <Language language={me.language} />
      </div>
    </View>
  )
}

function SessionList({ zone }: { zone: string }) {
  const client = useQueryClient()
  const sessions = useQuery({ queryKey: keys.sessions, queryFn: () => need(api.GET('/sessions')) })
  const end = useMutation<Schemas['Session'][], Refusal, number | 'others'>({
    mutationFn: (id) =>
      need(id === 'others' ? api.DELETE('/sessions') : api.DELETE('/sessions/{id}', { params: { path: { id } } })),
    onSuccess: (left) => client.setQueryData(keys.sessions, left),
  })
  const list = sessions.data ?? []
  const when = (text: string) => {
    const at = new Date(text)
    return `${shortDate(wallClock(at, zone).date)} ${clock(at, zone)}`
  }
  return (
    <section aria-labelledby="sessions-head">
      <h2 id="sessions-head">Where you are signed in</h2>
      <ul className="mt-2">
        {list.map((session) => (
          <li
            key={session.id}
            className="flex items-baseline justify-between gap-4 border-t border-rule py-2 text-note"
          >
            <span className="min-w-0">
              <b className="font-semibold">{session.current ? 'Here' : session.address || 'unknown address'}</b>
              <span className="text-ink-2">
                {' '}
                · since {when(session.at)}, last used {when(session.seenAt)}
              </span>
              <span className="block truncate text-small text-ink-2" title={session.agent}>
                {session.agent}
              </span>
            </span>
            {!session.current && (
              <Button kind="text" aria-label={`Sign out ${session.address}`} onClick={() => end.mutate(session.id)}>
                Sign out
              </Button>
            )}
          </li>
        ))}
      </ul>
      {end.error && <Need>{end.error.message}</Need>}
      {list.length > 1 && (
        <Button kind="plain" onClick={() => end.mutate('others')}>
          Sign out everywhere else
        </Button>
      )}
    </section>
  )
}

function Password() {
  const [current, setCurrent] = useState('')
  const [password, setPassword] = useState('')
  const change = useMutation<unknown, Refusal, void>({
    mutationFn: () => need(api.PUT('/me/password', { body: { current, password } })),
    onSuccess: () => {
      setCurrent('')
      setPassword('')
    },
  })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    change.mutate()
  }
  return (
    <section aria-labelledby="password-head">
      <h2 id="password-head">Password</h2>
      <form onSubmit={submit} className="mt-2 grid gap-3" noValidate>
        <TextField
          label="Present password"
          type="password"
          autoComplete="current-password"
          value={current}
          problem={change.error?.fields.current}
          onChange={(event) => setCurrent(event.target.value)}
        />
        <TextField
          label="New password"
          type="password"
          autoComplete="new-password"
          hint="At least 12 characters. All your other sessions end."
          value={password}
          problem={change.error?.fields.password}
          onChange={(event) => setPassword(event.target.value)}
        />
        {change.error && Object.keys(change.error.fields).length === 0 && <Need>{change.error.message}</Need>}
        {change.isSuccess && <p role="status">Your password is changed.</p>}
        <p>
          <Button type="submit" disabled={change.isPending || !current || !password}>
            Change password
          </Button>
        </p>
      </form>
    </section>
  )
}

const languages = { en: 'English', de: 'Deutsch', fr: 'Français', nl: 'Nederlands', pt: 'Português' } as const

type Code = keyof typeof languages

function Language({ language }: { language: string }) {
  const client = useQueryClient()
  const change = useMutation<unknown, Refusal, Code>({
    mutationFn: (next) => need(api.PUT('/me/language', { body: { language: next } })),
    onSuccess: () => hasChanged(client, 'me'),
  })
  return (
    <section aria-labelledby="language-head">
      <h2 id="language-head">Language of your mail</h2>
      <p className="mt-1 mb-2 text-note text-ink-2">Clients get theirs in the language in which they booked.</p>
      <SelectField
        label="Language"
        value={change.variables ?? language}
        onChange={(event) => change.mutate(event.target.value as Code)}
      >
        {Object.entries(languages).map(([code, name]) => (
          <option key={code} value={code}>
            {name}
          </option>
        ))}
      </SelectField>
      {change.error && <Need>{change.error.message}</Need>}
      {change.isSuccess && <p role="status">Your mail comes in {languages[change.variables]} from now on.</p>}
    </section>
  )
}

function Mail({ mail }: { mail: string }) {
  const client = useQueryClient()
  const [current, setCurrent] = useState('')
  const [next, setNext] = useState('')
  const change = useMutation<unknown, Refusal, void>({
    mutationFn: () => need(api.PUT('/me/mail', { body: { current, mail: next } })),
    onSuccess: () => {
      setCurrent('')
      setNext('')
      void hasChanged(client, 'me')
    },
  })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    change.mutate()
  }
  return (
    <section aria-labelledby="mail-head">
      <h2 id="mail-head">Mail address</h2>
      <p className="mt-1 text-note text-ink-2">You sign in with {mail}, and your mail goes there.</p>
      <form onSubmit={submit} className="mt-2 grid gap-3" noValidate>
        <TextField
          label="New mail address"
          type="email"
          autoComplete="email"
          value={next}
          problem={change.error?.fields.mail}
          onChange={(event) => setNext(event.target.value)}
        />
        <TextField
          label="Your password"
          type="password"
          autoComplete="current-password"
          value={current}
          problem={change.error?.fields.current}
          onChange={(event) => setCurrent(event.target.value)}
        />
        {change.error && Object.keys(change.error.fields).length === 0 && <Need>{change.error.message}</Need>}
        {change.isSuccess && <p role="status">Your mail address is changed; the old one was told.</p>}
        <p>
          <Button type="submit" disabled={change.isPending || !current || !next}>
            Change mail address
          </Button>
        </p>
      </form>
    </section>
  )
}
