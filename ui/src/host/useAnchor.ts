import { useEffect } from 'react'
import { useLocation } from 'react-router'

/** Once what it shows is there, goes to the part of the view that the address names (/people#person-3), with the focus. */
export function useAnchor(ready: boolean) {
  const { hash } = useLocation()
  useEffect(() => {
    const part = ready && hash ? document.getElementById(hash.slice(1)) : null
    if (!part) return
    part.tabIndex = -1
    part.scrollIntoView({ block: 'center' })
    part.focus({ preventScroll: true })
  }, [ready, hash])
}
