import { createContext, type ReactNode, useContext, useEffect, useMemo, useRef, useState } from 'react'
import { type Blocker, useBlocker, useNavigate } from 'react-router'
import { Ask } from '../kit/Ask'
import { say } from '../say'
import { goToFirstFault } from './faults'

/** Saves what is not saved; fails if it can't be. */
type Save = () => Promise<unknown>

interface Unsaved {
  setUnsaved: (unsaved: boolean) => void
  /** How the open editor saves. */
  saving: { current: Save | undefined }
  /** Lets go of the guard until something is unsaved again. */
  allIsSaved: () => void
}

const Context = createContext<Unsaved>({ setUnsaved: () => {}, saving: { current: undefined }, allIsSaved: () => {} })

/** Knows whether the open editor has unsaved changes, and asks before they are left behind, by whatever way: Back too. */
export function UnsavedGuard({ children }: { children: ReactNode }) {
  const [unsaved, setState] = useState(false)
  const guarded = useRef(false) // the same at once: what is drawn follows a little later
  const saving = useRef<Save | undefined>(undefined)
  const blocker = useBlocker(
    ({ currentLocation, nextLocation }) => guarded.current && currentLocation.pathname !== nextLocation.pathname,
  )
  const value = useMemo(() => {
    const setUnsaved = (now: boolean) => {
      guarded.current = now
      setState(now)
    }
    return { setUnsaved, saving, allIsSaved: () => setUnsaved(false) }
  }, [])

  useEffect(() => {
    if (!unsaved) return
    const warn = (event: BeforeUnloadEvent) => event.preventDefault()
    addEventListener('beforeunload', warn)
    return () => removeEventListener('beforeunload', warn)
  }, [unsaved])

  const { saveAndLeave, toTheFault } = useSaveAndLeave(blocker, value)
  return (
    <Context value={value}>
      {children}
      <Ask
        open={blocker.state === 'blocked'}
        title={say.edit.saveBeforeYouLeave}
        yes={say.edit.saveLeave}
        also={{ words: say.edit.discardChanges, onDo: () => blocker.proceed?.() }}
        no={say.edit.stay}
        onYes={saveAndLeave}
        onNo={() => blocker.reset?.()}
        onClosed={toTheFault}
      >
        {say.edit.whatYouChangedHere}
      </Ask>
    </Context>
  )
}

/** Saves, then goes where one was going; what can't be saved is stayed with. */
function useSaveAndLeave(blocker: Blocker, { saving, allIsSaved }: Unsaved) {
  const navigate = useNavigate()
  const now = useRef(blocker)
  now.current = blocker
  const failed = useRef(false)
  const saveAndLeave = async () => {
    const to = blocker.location
    try {
      await saving.current?.()
    } catch {
      failed.current = true
      now.current.reset?.()
      return
    }
    allIsSaved()
    if (now.current.state === 'blocked') now.current.proceed()
    else if (to) navigate(to) // saving has led elsewhere meanwhile
  }
  const toTheFault = (event: Event) => {
    if (!failed.current) return
    failed.current = false
    event.preventDefault()
    goToFirstFault()
  }
  return { saveAndLeave, toTheFault }
}

/** Goes to a view. Where something is not saved, that is asked about first. */
export function useGo() {
  const navigate = useNavigate()
  return (to: string) => navigate(to)
}

/** Goes to a view after one's own save. */
export function useGoSaved() {
  const navigate = useNavigate()
  const { allIsSaved } = useContext(Context)
  return (to: string) => {
    allIsSaved()
    navigate(to, { replace: true })
  }
}

/** Tells the guard whether this editor has unsaved changes, and how it saves them. */
export function useUnsaved(unsaved: boolean, save: Save) {
  const { setUnsaved, saving } = useContext(Context)
  useEffect(() => {
    setUnsaved(unsaved)
    return () => setUnsaved(false)
  }, [unsaved, setUnsaved])
  useEffect(() => {
    saving.current = save
  })
}
