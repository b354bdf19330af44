import { createContext, type ReactNode, useContext, useEffect, useMemo, useRef, useState } from 'react'
import { useBlocker, useNavigate } from 'react-router'
import { Ask } from '../kit/Ask'

interface Unsaved {
  setUnsaved: (unsaved: boolean) => void
  /** Lets go of the guard until something is unsaved again. */
  allIsSaved: () => void
}

const Context = createContext<Unsaved>({ setUnsaved: () => {}, allIsSaved: () => {} })

/** Knows whether the open editor has unsaved changes, and asks before they are left behind, by whatever way: Back too. */
export function UnsavedGuard({ children }: { children: ReactNode }) {
  const [unsaved, setState] = useState(false)
  const guarded = useRef(false) // the same at once: what is drawn follows a little later
  const blocker = useBlocker(
    ({ currentLocation, nextLocation }) => guarded.current && currentLocation.pathname !== nextLocation.pathname,
  )
  const value = useMemo(() => {
    const setUnsaved = (now: boolean) => {
      guarded.current = now
      setState(now)
    }
    return { setUnsaved, allIsSaved: () => setUnsaved(false) }
  }, [])

  useEffect(() => {
    if (!unsaved) return
    const warn = (event: BeforeUnloadEvent) => event.preventDefault()
    addEventListener('beforeunload', warn)
    return () => removeEventListener('beforeunload', warn)
  }, [unsaved])

  return (
    <Context value={value}>
      {children}
      <Ask
        open={blocker.state === 'blocked'}
        title="Leave without saving?"
        yes="Leave, drop the changes"
        no="Stay here"
        onYes={() => blocker.proceed?.()}
        onNo={() => blocker.reset?.()}
      >
        What you changed here is not saved yet.
      </Ask>
    </Context>
  )
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

/** Tells the guard whether this editor has unsaved changes. */
export function useUnsaved(unsaved: boolean) {
  const { setUnsaved } = useContext(Context)
  useEffect(() => {
    setUnsaved(unsaved)
    return () => setUnsaved(false)
  }, [unsaved, setUnsaved])
}
