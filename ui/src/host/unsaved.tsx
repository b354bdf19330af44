import { createContext, type ReactNode, useCallback, useContext, useEffect, useMemo, useState } from 'react'
import { useNavigate } from 'react-router'
import { Ask } from '../kit/Ask'

interface Unsaved {
  setUnsaved: (unsaved: boolean) => void
  /** Goes to a view, after asking if there are unsaved changes. */
  go: (to: string) => void
}

const Context = createContext<Unsaved>({ setUnsaved: () => {}, go: () => {} })

/** Knows whether the open editor has unsaved changes, and asks before they are left behind. */
export function UnsavedGuard({ children }: { children: ReactNode }) {
  const [unsaved, setUnsaved] = useState(false)
  const [asked, setAsked] = useState<string | null>(null)
  const navigate = useNavigate()
  const go = useCallback((to: string) => (unsaved ? setAsked(to) : navigate(to)), [unsaved, navigate])
  const value = useMemo(() => ({ setUnsaved, go }), [go])

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
        open={asked !== null}
        title="Leave without saving?"
        yes="Leave, drop the changes"
        no="Stay here"
        onYes={() => {
          setUnsaved(false)
          setAsked(null)
          if (asked) navigate(asked)
        }}
        onNo={() => setAsked(null)}
      >
        What you changed here is not saved yet.
      </Ask>
    </Context>
  )
}

export function useGo() {
  return useContext(Context).go
}

/** Tells the guard whether this editor has unsaved changes. */
export function useUnsaved(unsaved: boolean) {
  const { setUnsaved } = useContext(Context)
  useEffect(() => {
    setUnsaved(unsaved)
    return () => setUnsaved(false)
  }, [unsaved, setUnsaved])
}
