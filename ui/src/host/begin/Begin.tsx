import { useMutation, useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { useNavigate } from 'react-router'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { Button, Need, SelectField, TextField } from '../../kit/kit'
import { ZoneOptions } from '../../kit/ZoneOptions'
import { Sign } from '../../page/Frame'
import { say, spoken } from '../../say'
import { ownZone } from '../../time/time'
import { looksNow } from '../queries'

/** "quillmere-light-advisers" for Quillmere Light Advisers: what the name suggests as a short one. */
export function shortOf(name: string): string {
  return name
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '')
    .slice(0, 60)
}

/** The first thing in an empty installation: a workspace and its owner. */
export function Begin() {
  const [typed, setTyped] = useState({
    code: new URLSearchParams(location.search).get('code') ?? '',
    workspace: '',
    slug: '',
    name: '',
    mail: '',
    zone: ownZone(),
    password: '',
  })
  const client = useQueryClient()
  const navigate = useNavigate()
  const begin = useMutation<Schemas['Me'], Refusal, void>({
    mutationFn: () =>
      need(api.POST('/begin', { body: { ...typed, slug: typed.slug || shortOf(typed.workspace), language: spoken } })),
    onSuccess: (me) => {
      navigate('/begin', { replace: true })
      return looksNow(client, me)
    },
  })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    begin.mutate()
  }
  const wrong = begin.error?.fields ?? {}
  const field = (name: keyof typeof typed, label: string) => ({
    label,
    value: typed[name],
    problem: wrong[name],
    onChange: (event: { target: { value: string } }) => setTyped({ ...typed, [name]: event.target.value }),
  })
  const slug = typed.slug || shortOf(typed.workspace) || 'short-name'
  return (
    <main className="mx-auto max-w-212 px-6 pt-[8vh] pb-12">
      <p className="mb-6 flex items-center gap-2.5 font-head text-[22px]">{say.begin.corrim(<Sign />)}</p>
      <h1>{say.begin.setUpYourWorkspace}</h1>
      <p className="mt-1 mb-6 max-w-2xl text-ink-2">{say.begin.fewMinutesFromHere}</p>
      <form onSubmit={submit} noValidate className="grid gap-x-12 gap-y-4 md:grid-cols-2">
        <TextField autoComplete="organization" {...field('workspace', say.begin.whatClientsCallYou)} />
        <TextField
          placeholder={shortOf(typed.workspace)}
          hint={say.begin.yourPageWillP(location.host, slug)}
          {...field('slug', say.begin.shortNameAddresses)}
        />
        <TextField autoComplete="name" {...field('name', say.begin.yourOwnName)} />
        <SelectField {...field('zone', say.begin.yourTimeZone)}>
          <ZoneOptions own={typed.zone} />
        </SelectField>
        <TextField type="email" autoComplete="username" {...field('mail', say.begin.yourMailAddress)} />
        <TextField
          type="password"
          autoComplete="new-password"
          hint={say.begin.least12CharactersFew}
          {...field('password', say.begin.aPassword)}
        />
        <TextField hint={say.begin.standsWhereProgramWas} {...field('code', say.begin.codeInstallation)} />
        {begin.error && Object.keys(wrong).length === 0 && <Need className="md:col-span-2">{begin.error.message}</Need>}
        <p className="md:col-span-2">
          <Button type="submit" disabled={begin.isPending}>
            {say.begin.makeWorkspace}
          </Button>
        </p>
      </form>
    </main>
  )
}
