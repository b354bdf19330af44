import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { useNavigate, useParams } from 'react-router'
import { api, need, type Refusal, type Schemas } from '../api/client'
import { keys } from '../api/keys'
import { Button, Need, SelectField, TextField } from '../kit/kit'
import { ZoneOptions } from '../kit/ZoneOptions'
import { say, spoken } from '../say'
import { ownZone } from '../time/time'
import { looksNow } from './queries'

/** Whoever was invited chooses a password and is in. */
export function Join() {
  const { secret = '' } = useParams()
  const invited = useQuery<Schemas['Invited'], Refusal>({
    queryKey: keys.invitation(secret),
    queryFn: () => need(api.GET('/join/{secret}', { params: { path: { secret } } })),
    refetchOnWindowFocus: false,
  })
  return (
    <main className="mx-auto max-w-md px-6 py-16">
      {invited.error && (
        <>
          <h1>{say.shell.invitationDoesntWork}</h1>
          <p className="my-3 text-ink-2">{invited.error.message}</p>
          <a href="/">{say.shell.sign}</a>
        </>
      )}
      {invited.data && <Form secret={secret} invited={invited.data} />}
    </main>
  )
}

function Form({ secret, invited }: { secret: string; invited: Schemas['Invited'] }) {
  const [typed, setTyped] = useState({ name: invited.name, zone: ownZone(), password: '' })
  const client = useQueryClient()
  const navigate = useNavigate()
  const join = useMutation<Schemas['Me'], Refusal, void>({
    mutationFn: () =>
      need(api.POST('/join/{secret}', { params: { path: { secret } }, body: { ...typed, language: spoken } })),
    onSuccess: async (me) => {
      await looksNow(client, me)
      navigate('/', { replace: true })
    },
  })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    join.mutate()
  }
  const wrong = join.error?.fields ?? {}
  return (
    <form onSubmit={submit} noValidate className="grid gap-4">
      <h1>{say.shell.welcome(invited.workspace)}</h1>
      <p className="text-ink-2">{say.shell.youSign(invited.mail)}</p>
      <TextField
        label={say.shell.yourName}
        autoComplete="name"
        value={typed.name}
        problem={wrong.name}
        onChange={(event) => setTyped({ ...typed, name: event.target.value })}
      />
      <SelectField
        label={say.shell.yourTimeZone}
        value={typed.zone}
        onChange={(event) => setTyped({ ...typed, zone: event.target.value })}
      >
        <ZoneOptions own={typed.zone} />
      </SelectField>
      <TextField
        label={say.shell.aPassword}
        type="password"
        autoComplete="new-password"
        hint={say.shell.least12Characters}
        value={typed.password}
        problem={wrong.password}
        onChange={(event) => setTyped({ ...typed, password: event.target.value })}
      />
      {join.error && Object.keys(wrong).length === 0 && <Need>{join.error.message}</Need>}
      <p>
        <Button type="submit" disabled={join.isPending}>
          {say.shell.begin}
        </Button>
      </p>
    </form>
  )
}
