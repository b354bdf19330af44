import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { hasChanged, keys } from '../../api/keys'
import { Button, Need, SelectField, TextField } from '../../kit/kit'
import { say, speakTheirs } from '../../say'
import { clock, shortDate, wallClock } from '../../time/time'
import { useMe } from '../queries'
import { Unread, View } from '../Shell'
import { News } from './News'

/** One's own way in: password, mail address, and where one is signed in. */
export function Account() {
  const me = useMe().data?.person
  if (!me) return <Unread />
  return (
    <View title={say.account.yourAccount} note={me.mail}>
      <div className="grid max-w-xl grid-cols-[minmax(0,1fr)] gap-8">
        <News />
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
      <h2 id="sessions-head">{say.account.whereYouSigned}</h2>
      <ul className="mt-2">
        {list.map((session) => (
          <li
            key={session.id}
            className="flex items-baseline justify-between gap-4 border-t border-rule py-2 text-note"
          >
            <span className="min-w-0">
              <b className="font-semibold">
                {session.current ? say.account.here : session.address || say.account.unknownAddress}
              </b>
              <span className="text-ink-2"> {say.account.sinceLastUsed(when(session.at), when(session.seenAt))}</span>
              <span className="block truncate text-small text-ink-2" title={session.agent}>
                {session.agent}
              </span>
            </span>
            {!session.current && (
              <Button
                kind="text"
                aria-label={say.account.signOutFrom(session.address)}
                onClick={() => end.mutate(session.id)}
              >
                {say.account.signOut}
              </Button>
            )}
          </li>
        ))}
      </ul>
      {end.error && <Need>{end.error.message}</Need>}
      {list.length > 1 && (
        <Button kind="plain" onClick={() => end.mutate('others')}>
          {say.account.signOutEverywhereElse}
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
      <h2 id="password-head">{say.account.password}</h2>
      <form onSubmit={submit} className="mt-2 grid gap-3" noValidate>
        <TextField
          label={say.account.presentPassword}
          type="password"
          autoComplete="current-password"
          value={current}
          problem={change.error?.fields.current}
          onChange={(event) => setCurrent(event.target.value)}
        />
        <TextField
          label={say.account.newPassword}
          type="password"
          autoComplete="new-password"
          hint={say.account.least12CharactersAll}
          value={password}
          problem={change.error?.fields.password}
          onChange={(event) => setPassword(event.target.value)}
        />
        {change.error && Object.keys(change.error.fields).length === 0 && <Need>{change.error.message}</Need>}
        {change.isSuccess && <p role="status">{say.account.yourPasswordChanged}</p>}
        <p>
          <Button type="submit" disabled={change.isPending || !current || !password}>
            {say.account.changePassword}
          </Button>
        </p>
      </form>
    </section>
  )
}

const languages = {
  en: 'English',
  de: 'Deutsch',
  fr: 'Français',
  nl: 'Nederlands',
  pt: 'Português',
} as const

type Code = keyof typeof languages

function Language({ language }: { language: string }) {
  const client = useQueryClient()
  const change = useMutation<unknown, Refusal, Code>({
    mutationFn: (next) => need(api.PUT('/me/language', { body: { language: next } })),
    onSuccess: (_, next) => {
      speakTheirs(next)
      return hasChanged(client, 'me')
    },
  })
  return (
    <section aria-labelledby="language-head">
      <h2 id="language-head">{say.account.languageYourMail}</h2>
      <p className="mt-1 mb-2 text-note text-ink-2">{say.account.clientsGetTheirsLanguage}</p>
      <SelectField
        label={say.account.language}
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
      {change.isSuccess && <p role="status">{say.account.yourMailComesFrom(languages[change.variables])}</p>}
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
      <h2 id="mail-head">{say.account.mailAddress}</h2>
      <p className="mt-1 text-note text-ink-2">{say.account.youSignYourMail(mail)}</p>
      <form onSubmit={submit} className="mt-2 grid gap-3" noValidate>
        <TextField
          label={say.account.newMailAddress}
          type="email"
          autoComplete="email"
          value={next}
          problem={change.error?.fields.mail}
          onChange={(event) => setNext(event.target.value)}
        />
        <TextField
          label={say.account.yourPassword}
          type="password"
          autoComplete="current-password"
          value={current}
          problem={change.error?.fields.current}
          onChange={(event) => setCurrent(event.target.value)}
        />
        {change.error && Object.keys(change.error.fields).length === 0 && <Need>{change.error.message}</Need>}
        {change.isSuccess && <p role="status">{say.account.yourMailAddressChanged}</p>}
        <p>
          <Button type="submit" disabled={change.isPending || !current || !next}>
            {say.account.changeMailAddress}
          </Button>
        </p>
      </form>
    </section>
  )
}
