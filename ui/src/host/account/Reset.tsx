import { useMutation } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { useParams } from 'react-router'
import { api, need, type Refusal } from '../../api/client'
import { Button, Need, TextField } from '../../kit/kit'
import { say } from '../../say'

/** A new password, by the link that came by mail. */
export function Reset() {
  const { secret = '' } = useParams()
  const [password, setPassword] = useState('')
  const reset = useMutation<unknown, Refusal, void>({
    mutationFn: () => need(api.POST('/password-resets/{secret}', { params: { path: { secret } }, body: { password } })),
  })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    reset.mutate()
  }
  return (
    <main className="mx-auto max-w-104 px-6 pt-[12vh]">
      <h1 className="mb-4">{say.account.chooseNewPassword}</h1>
      {reset.isSuccess ? (
        <p role="status">{say.account.yourPasswordChangedAll(<a href="/">{say.account.sign}</a>)}</p>
      ) : (
        <form onSubmit={submit} className="grid gap-4" noValidate>
          <TextField
            label={say.account.newPassword}
            type="password"
            autoComplete="new-password"
            hint={say.account.least12CharactersFew}
            value={password}
            problem={reset.error?.fields.password}
            onChange={(event) => setPassword(event.target.value)}
          />
          {reset.error && Object.keys(reset.error.fields).length === 0 && <Need>{reset.error.message}</Need>}
          <p>
            <Button type="submit" disabled={reset.isPending || !password}>
              {say.account.changePassword}
            </Button>
          </p>
        </form>
      )}
    </main>
  )
}

/** Asks for the link. The answer is the same whoever exists. */
export function Forgotten({ mail }: { mail: string }) {
  const [asked, setAsked] = useState(false)
  const ask = useMutation<unknown, Refusal, void>({
    mutationFn: () => need(api.POST('/password-resets', { body: { mail } })),
    onSuccess: () => setAsked(true),
  })
  if (asked)
    return (
      <p role="status" className="mt-4 text-note">
        {say.account.ifThereAccountAddress}
      </p>
    )
  return (
    <div className="mt-4 text-note">
      <Button kind="text" disabled={!mail || ask.isPending} onClick={() => ask.mutate()}>
        {say.account.forgotYourPassword}
      </Button>
      {!mail && <span className="text-ink-2"> {say.account.enterYourMailAddress}</span>}
      {ask.error && <Need className="mt-2">{ask.error.message}</Need>}
    </div>
  )
}
