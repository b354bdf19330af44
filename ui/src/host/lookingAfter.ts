import { api } from '../api/client'

/** Whose hours are looked at, if a coordinator looks after a colleague's: it stands in the address of the hours. */
function lookedAfter(): string | null {
  return location.pathname === '/hours' ? new URLSearchParams(location.search).get('for') : null
}

/** Names that colleague with every request. */
export function nameLookedAfter(): void {
  api.use({
    onRequest({ request }) {
      const id = lookedAfter()
      if (id) request.headers.set('For-Person', id)
    },
  })
}
