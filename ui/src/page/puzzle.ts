import { useEffect, useState } from 'react'
import type { Refusal, Schemas } from '../api/client'

export interface Puzzle {
  task: Pick<Schemas['PuzzleTask'], 'begin' | 'minutes'>
  answer: string
  onAnswer: (answer: string) => void
}

/** The small puzzle of a page that asks for one; after a refused answer there is another one. */
export function usePuzzle(asked: boolean, ask: () => Promise<Schemas['PuzzleTask']>, refusal: Refusal | null) {
  const [task, setTask] = useState<Schemas['PuzzleTask'] | null>(null)
  const [answer, setAnswer] = useState('')
  const refused = refusal?.fields.puzzle ? refusal : null
  // biome-ignore lint/correctness/useExhaustiveDependencies: asked again for each refusal, not for each new function
  useEffect(() => {
    if (!asked) return
    setAnswer('')
    // Without one the booking is refused and says so, and that asks again.
    ask().then(setTask, () => {})
  }, [asked, refused])
  return {
    shown: task && { task, answer, onAnswer: setAnswer },
    solution: task ? { token: task.token, answer } : undefined,
  }
}
