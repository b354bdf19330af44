import { useCallback } from 'react'
import { useSearchParams } from 'react-router'

/** Whether something is being done that an address can ask for too: /?do=away opens it at once. Ended, it leaves the address. */
export function useDo(what: string): [doing: boolean, set: (doing: boolean) => void] {
  const [search, setSearch] = useSearchParams()
  const set = useCallback(
    (doing: boolean) =>
      setSearch(
        (before) => {
          const next = new URLSearchParams(before)
          if (doing) next.set('do', what)
          else next.delete('do')
          return next
        },
        { replace: true },
      ),
    [setSearch, what],
  )
  return [search.get('do') === what, set]
}
