import { type ReactNode, useEffect, useRef } from 'react'
import { Button } from '../kit/kit'
import { say } from '../say'
import { goToFirstFault } from './faults'

interface Props {
  changes: number
  /** The saving, which forgets what was wrong when the changes are discarded. */
  save: { isPending: boolean; reset: () => void }
  discard: () => void
  onSave: () => void
  /** What was changed, in a few words each. */
  what?: string[]
  /** What it does, if it is saved. */
  effect?: ReactNode
  /** What is wrong in how many places; the first can be gone to. */
  faults?: number
}

/** Saving is explicit, and in sight from the first change on: how much is not saved and what it does, save, discard. */
export function SaveBar({ changes, save, discard, onSave, what = [], effect, faults = 0 }: Props) {
  useFocusBack(changes > 0)
  if (changes === 0) return null
  return (
    <section
      aria-label={say.edit.notSavedYet}
      className="sticky bottom-0 z-10 flex flex-wrap items-center gap-x-4 gap-y-2 border-t-2 border-act bg-sheet px-6.5 py-3 text-note"
    >
      <span className="flex gap-2.5">
        <Button onClick={onSave} disabled={save.isPending}>
          {say.edit.saveChanges}
        </Button>
        <Button
          kind="plain"
          onClick={() => {
            save.reset()
            discard()
          }}
        >
          {say.edit.discardChanges}
        </Button>
      </span>
      <span className="text-ink-2" role="status">
        <b className="font-semibold text-ink">{say.edit.changeNotSaved(changes)}</b>
        {what.length > 0 && `: ${what.join(', ')}`}
        {effect && <span className="ml-3">{effect}</span>}
      </span>
      {faults > 0 && (
        <span className="ml-auto text-need">
          {say.edit.mendBeforeSaving(faults)}{' '}
          <button type="button" className="link" onClick={goToFirstFault}>
            {say.edit.goToFirst(faults)}
          </button>
        </span>
      )}
    </section>
  )
}

/** Once nothing is left to save, the bar goes, and what had the focus in it with it: the focus goes back to where one was at work. */
function useFocusBack(shown: boolean) {
  const last = useRef<HTMLElement | null>(null)
  useEffect(() => {
    const remember = ({ target }: FocusEvent) => {
      if (target instanceof HTMLElement && target.closest('main')) last.current = target
    }
    document.addEventListener('focusin', remember)
    return () => document.removeEventListener('focusin', remember)
  }, [])
  useEffect(() => {
    if (shown || !last.current || document.activeElement !== document.body) return
    const still = last.current.isConnected ? last.current : document.querySelector<HTMLElement>('main')
    still?.focus({ preventScroll: true })
  }, [shown])
}
