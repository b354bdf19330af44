import { useMutation } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { Button, Need, TextField } from '../../kit/kit'
import { say } from '../../say'

interface Props {
  phone: string
  /** The number has answered STOP. */
  stopped: boolean
  onProved: (view: Schemas['NewsView']) => void
}

/** One's own number for news by text message. A code that is sent there proves that it is. */
export function OwnPhone({ phone, stopped, onProved }: Props) {
  const [anew, setAnew] = useState(false)
  const prove = useMutation<Schemas['NewsView'], Refusal, { phone: string; code: string }>({
    mutationFn: (body) => need(api.PUT('/me/phone', { body })),
    onSuccess: (view) => {
      setAnew(false)
      onProved(view)
    },
  })
  if (phone !== '' && !anew)
    return (
      <p className="mt-2 text-note text-ink-2">
        {stopped ? say.account.phoneStopped(phone) : say.account.phoneTexts(phone)}{' '}
        <Button kind="text" onClick={() => setAnew(true)}>
          {say.account.phoneChange}
        </Button>{' '}
        <Button kind="text" onClick={() => prove.mutate({ phone: '', code: '' })}>
          {say.account.phoneRemove}
        </Button>
      </p>
    )
  return <Entering refusal={prove.error} onCode={(phone, code) => prove.mutate({ phone, code })} />
}

function Entering({ refusal, onCode }: { refusal: Refusal | null; onCode: (phone: string, code: string) => void }) {
  const [phone, setPhone] = useState('')
  const [code, setCode] = useState('')
  const send = useMutation<Schemas['OwnPhone'], Refusal, string>({
    mutationFn: (phone) => need(api.POST('/me/phone', { body: { phone } })),
  })
  const sent = send.data?.phone
  const submit = (event: FormEvent) => {
    event.preventDefault()
    if (sent) onCode(sent, code)
    else send.mutate(phone)
  }
  return (
    <form noValidate onSubmit={submit} className="mt-2 grid max-w-md gap-2">
      {sent ? (
        <TextField
          key="code"
          label={say.account.phoneCode(sent)}
          inputMode="numeric"
          autoComplete="one-time-code"
          autoFocus
          value={code}
          onChange={(event) => setCode(event.target.value)}
          problem={refusal ? (refusal.fields.code ?? refusal.message) : undefined}
        />
      ) : (
        <TextField
          key="phone"
          label={say.account.phoneAsk}
          type="tel"
          autoComplete="tel"
          value={phone}
          onChange={(event) => setPhone(event.target.value)}
          problem={send.error?.fields.phone}
        />
      )}
      {send.error && !send.error.fields.phone && <Need>{send.error.message}</Need>}
      <p>
        <Button kind="plain" type="submit">
          {sent ? say.account.phoneProve : say.account.phoneSend}
        </Button>{' '}
        {sent && (
          <Button kind="text" onClick={() => send.reset()}>
            {say.account.phoneOther}
          </Button>
        )}
      </p>
    </form>
  )
}
