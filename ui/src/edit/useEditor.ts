import { useEffect, useState } from 'react'
import { goToFirstFault } from './faults'
import { type Fields, merge } from './merge'

/** The kind of refusal that says so. */
export const changedMeanwhile = 'urn:corrim:problem:changed-meanwhile'

export interface Editor<T> {
  /** What is edited, as it stands. */
  draft: T
  /** What it is laid over: what is saved, by whomever. */
  saved: T
  set: (change: Partial<T>) => void
  /** What both oneself and somebody else have changed; one's own stands in the draft. */
  conflicts: string[]
  /** Rises whenever the draft is not what was typed last, so that fields which keep their text begin anew. */
  round: number
  discard: () => void
  /** One's own save has succeeded, and this is what the server made of it. */
  keep: (next: T) => void
}

interface State<T> {
  /** What was saved when it was last looked at. */
  seen: T
  /** What the draft is laid over. */
  base: T
  draft: T
  conflicts: string[]
  round: number
}

/**
 * The one way of editing: a draft over what is saved. When what is saved changes under it – somebody else has saved, or the data was
 * asked for again – one's own changes stay, and what was not touched becomes what is saved now.
 */
export function useEditor<T extends Fields>(saved: T): Editor<T> {
  const [state, setState] = useState<State<T>>({ seen: saved, base: saved, draft: saved, conflicts: [], round: 0 })
  let now = state
  if (!same(saved, state.seen)) {
    const { merged, conflicts } = merge(state.base, state.draft, saved)
    const round = same(merged, state.draft) ? state.round : state.round + 1
    now = { seen: saved, base: saved, draft: merged, conflicts, round }
    setState(now) // while drawing, so that what is old is never shown
  }
  return {
    draft: now.draft,
    saved: now.base,
    conflicts: now.conflicts,
    round: now.round,
    set: (change) => setState((before) => ({ ...before, draft: { ...before.draft, ...change } })),
    discard: () => setState((before) => ({ ...before, draft: before.base, conflicts: [], round: before.round + 1 })),
    keep: (next) => setState((before) => ({ ...before, base: next, draft: next, conflicts: [] })),
  }
}

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b)

/** Once a save was refused for what stands in a field, the first such field has the focus. */
export function useFirstFault(refused: { fields: Record<string, string> } | null) {
  useEffect(() => {
    if (!refused || Object.keys(refused.fields).length === 0) return
    goToFirstFault()
  }, [refused])
}
