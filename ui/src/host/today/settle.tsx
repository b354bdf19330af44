import { useMutation, useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import type { Refusal, Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { Sheet } from '../../kit/Ask'
import { Button, Need, TextArea } from '../../kit/kit'
import { say } from '../../say'

type Today = Schemas['Today']

/** One of the ways out. */
export function Way({ words, onDo }: { words: string; onDo: () => void }) {
  return (
    <button type="button" className="link" onClick={onDo}>
      {words}
    </button>
  )
}

interface WithWordProps {
  title: string
  words: string
  note: string
  send: (word: string) => Promise<Today>
}

/** A way out that the client is told of, with a word from the host. */
export function WithWord({ title, words, note, send }: WithWordProps) {
  const [open, setOpen] = useState(false)
  const [word, setWord] = useState('')
  const settle = useSettle(send)
  const submit = (event: FormEvent) => {
    event.preventDefault()
    settle.mutate(word, { onSuccess: () => setOpen(false) })
  }
  return (
    <>
      <Way words={words} onDo={() => setOpen(true)} />
      <Sheet open={open} title={title} onClose={() => setOpen(false)}>
        <form onSubmit={submit} noValidate>
          <TextArea
            label={say.today.messageThem}
            placeholder={say.today.optional}
            value={word}
            problem={settle.error?.fields.word}
            onChange={(event) => setWord(event.target.value)}
          />
          <p className="mt-1 mb-3 text-note text-ink-2">{note}</p>
          {settle.error && !settle.error.fields.word && <Need>{settle.error.message}</Need>}
          <Button type="submit" disabled={settle.isPending}>
            {words}
          </Button>
        </form>
      </Sheet>
    </>
  )
}

/** Something done about a booking; the answer is the host's day. */
export function useSettle<Input>(send: (input: Input) => Promise<Today>) {
  const client = useQueryClient()
  return useMutation<Today, Refusal, Input>({
    mutationFn: send,
    onSuccess: (today) => client.setQueryData(keys.today, today),
  })
}
