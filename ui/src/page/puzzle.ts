import { useEffect, useRef } from 'react'
import type { Schemas } from '../api/client'
import { solveInBackground } from './beside'

type Solution = Schemas['Solution']

/** As long as the server takes an answer, less the time to send it. */
const goodFor = 50 * 60_000

/** The small puzzle of a page that asks for one: the browser solves it as soon as it is wanted, while the form is filled in. */
export function usePuzzle(wanted: boolean, ask: () => Promise<Schemas['PuzzleTask']>) {
  const begun = useRef<{ at: number; solution: Promise<Solution | undefined> } | null>(null)
  const begin = () => {
    // Without one the booking is refused and says so, and that begins again.
    const solution = ask()
      .then(async (task) => ({ token: task.token, answer: await solveInBackground(task) }))
      .catch(() => undefined)
    begun.current = { at: Date.now(), solution }
    return solution
  }
  // biome-ignore lint/correctness/useExhaustiveDependencies: begun once it is wanted, not for each new function
  useEffect(() => {
    if (wanted && !begun.current) begin()
  }, [wanted])
  return {
    /** What goes with the booking, once it is there; nothing where no puzzle is wanted. */
    solution: async () => {
      if (!wanted) return undefined
      const { current } = begun
      return current && Date.now() - current.at < goodFor ? current.solution : begin()
    },
    /** Begins another one, after a refusal. */
    begin,
  }
}
