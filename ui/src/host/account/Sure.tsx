import { type FormEvent, useEffect, useState } from 'react'
import { api, askToBeSure, need, refusalOf } from '../../api/client'
import { Sheet } from '../../kit/Ask'
import { Button, TextField } from '../../kit/kit'
import { say } from '../../say'

/** Asks for the password once more when the server wants it for something risky; what was wanted is then done. */
export function Sure() {
  const [answer, setAnswer] = useState<((sure: boolean) => void) | null>(null)
  const [password, setPassword] = useState('')
  const [problem, setProblem] = useState('')
  useEffect(() => askToBeSure(() => new Promise((resolve) => setAnswer(() => resolve))), [])
  const end = (sure: boolean) => {
    answer?.(sure)
    setAnswer(null)
    setPassword('')
    setProblem('')
  }
  const submit = async (event: FormEvent) => {
    event.preventDefault()
    try {
      await need(api.POST('/session/check', { body: { password } }))
      end(true)
    } catch (error) {
      const refused = refusalOf(error)
      setProblem(refused.fields.current ?? refused.message)
    }
  }
  return (
    <Sheet open={answer !== null} title={say.account.enterYourPasswordOnce} onClose={() => end(false)}>
      <p className="mb-3 text-note text-ink-2">{say.account.youEnteredWhileAgo}</p>
      <form onSubmit={submit} className="grid gap-3" noValidate>
        <TextField
          label={say.account.yourPassword}
          type="password"
          autoComplete="current-password"
          value={password}
          problem={problem || undefined}
          onChange={(event) => setPassword(event.target.value)}
        />
        <p>
          <Button type="submit" disabled={!password}>
            {say.account.goAhead}
          </Button>
        </p>
      </form>
    </Sheet>
  )
}
