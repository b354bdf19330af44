import { type FormEvent, useState } from 'react'
import type { Schemas } from '../api/client'
import { Button, Need, TextField } from '../kit/kit'
import { Sign } from '../page/Frame'
import { say } from '../say'
import { placeOf } from '../time/time'
import { Forgotten } from './account/Reset'
import { useSignIn } from './queries'

export function SignIn({ demo }: { demo: Schemas['Person'][] }) {
  const [mail, setMail] = useState('')
  const [password, setPassword] = useState('')
  const signIn = useSignIn()
  const submit = (event: FormEvent) => {
    event.preventDefault()
    signIn.mutate({ mail, password })
  }
  return (
    <main className="mx-auto grid max-w-212 gap-x-16 gap-y-8 px-6 pt-[12vh] md:grid-cols-2">
      <div>
        <p className="mb-6 flex items-center gap-2.5 font-head text-[22px]">{say.shell.corrim(<Sign />)}</p>
        <h1 className="mb-4">{say.shell.sign}</h1>
        <form onSubmit={submit} className="grid gap-4" noValidate>
          <TextField
            label={say.shell.mail}
            type="email"
            autoComplete="username"
            value={mail}
            onChange={(event) => setMail(event.target.value)}
          />
          <TextField
            label={say.shell.password}
            type="password"
            autoComplete="current-password"
            maxLength={1000}
            value={password}
            onChange={(event) => setPassword(event.target.value)}
          />
          {signIn.error && <Need>{signIn.error.message}</Need>}
          <p>
            <Button type="submit" disabled={signIn.isPending}>
              {say.shell.sign}
            </Button>
          </p>
        </form>
        <Forgotten mail={mail} />
      </div>
      {demo.length > 0 && (
        <section aria-labelledby="demo-head" className="md:border-l md:border-rule md:pl-10">
          <h2 id="demo-head">{say.shell.somebodyDemo}</h2>
          <p className="mb-3 text-note text-ink-2">{say.shell.quillmereLightAdvisersMade}</p>
          <ul>
            {demo.map((person) => (
              <li key={person.id} className="border-t border-rule py-1.5">
                <button
                  type="button"
                  className="link font-semibold"
                  onClick={() => signIn.mutate({ person: person.id })}
                >
                  {person.name}
                </button>{' '}
                <span className="text-note text-ink-3">{placeOf(person.zone)}</span>
              </li>
            ))}
          </ul>
        </section>
      )}
    </main>
  )
}
