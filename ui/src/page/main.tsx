import { StrictMode, useEffect, useState } from 'react'
import { createRoot } from 'react-dom/client'
import { api, need, type Refusal, refusalOf, type Schemas } from '../api/client'
import '../theme.css'
import { BookingPage } from './BookingPage'
import { BookPage } from './BookPage'
import { Frame } from './Frame'

type Shown =
  | { kind: 'page'; workspace: string; type: string; page: Schemas['Page'] }
  | { kind: 'booking'; booking: Schemas['ClientBooking']; fresh: boolean }
  | { kind: 'refused'; refusal: Refusal }

/** What an address shows: /p/workspace/type a page, /b/secret a booking. */
async function load(path: string): Promise<Shown> {
  const [, kind, first = '', second = ''] = path.split('/').map(decodeURIComponent)
  try {
    if (kind === 'b') {
      const booking = await need(api.GET('/bookings/{link}', { params: { path: { link: first } } }))
      return { kind: 'booking', booking, fresh: false }
    }
    const page = await need(
      api.GET('/public/{workspace}/{type}', { params: { path: { workspace: first, type: second } } }),
    )
    return { kind: 'page', workspace: first, type: second, page }
  } catch (error) {
    return { kind: 'refused', refusal: refusalOf(error) }
  }
}

function Client() {
  const [shown, setShown] = useState<Shown | null>(null)
  useEffect(() => {
    const show = () => void load(location.pathname).then(setShown)
    show()
    addEventListener('popstate', show)
    return () => removeEventListener('popstate', show)
  }, [])

  switch (shown?.kind) {
    case 'page':
      return (
        <BookPage
          {...shown}
          onBooked={(booking) => {
            history.pushState(null, '', booking.link)
            setShown({ kind: 'booking', booking, fresh: true })
            scrollTo(0, 0)
          }}
        />
      )
    case 'booking':
      return (
        <BookingPage
          booking={shown.booking}
          fresh={shown.fresh}
          onChange={(booking) => setShown({ ...shown, booking, fresh: false })}
        />
      )
    case 'refused':
      return (
        <Frame workspace="Corrim">
          <h1>{shown.refusal.status === 404 ? 'Nothing is here' : 'This did not work'}</h1>
          <p className="mt-2 text-ink-2">{shown.refusal.message}</p>
        </Frame>
      )
  }
  return null
}

const root = document.getElementById('root')
if (root)
  createRoot(root).render(
    <StrictMode>
      <Client />
    </StrictMode>,
  )
