import { QueryClientProvider } from '@tanstack/react-query'
import { setNonce } from 'get-nonce'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { createBrowserRouter, Navigate, Route, RouterProvider, Routes } from 'react-router'
import './host.css'
import { UnsavedGuard } from '../edit/unsaved'
import { Need } from '../kit/kit'
import { Account } from './account/Account'
import { Reset } from './account/Reset'
import { Sure } from './account/Sure'
import { Begin } from './begin/Begin'
import { Steps } from './begin/Steps'
import { Board } from './board/Board'
import { Calendars } from './calendars/Calendars'
import { Clients } from './clients/Clients'
import { Hours } from './hours/Hours'
import { Join } from './Join'
import { nameLookedAfter } from './lookingAfter'
import { LooksView } from './looks/LooksView'
import { Offer } from './offer/Offer'
import { People } from './people/People'
import { queryClient, useMe } from './queries'
import { Routing } from './routing/Routing'
import { Shell } from './Shell'
import { SignIn } from './SignIn'
import { Today } from './today/Today'
import { Reasons } from './types/Reasons'
import { TypePage } from './types/TypePage'
import { Types } from './types/Types'
import { Workspace } from './workspace/Workspace'

// Radix writes style tags, which the page's policy allows only with its nonce.
const nonce = document.querySelector<HTMLMetaElement>('meta[property=csp-nonce]')?.nonce
if (nonce) setNonce(nonce)

nameLookedAfter()

function Host() {
  const me = useMe()
  if (me.error) return <Need className="m-10">{me.error.message}</Need>
  if (!me.data) return null
  if (me.data.empty) return <Begin />
  if (!me.data.person) return <SignIn demo={me.data.demo} />
  return (
    <UnsavedGuard>
      <Sure />
      <Shell person={me.data.person}>
        <Routes>
          <Route path="/" element={<Today />} />
          <Route path="/begin" element={<Steps />} />
          <Route path="/board" element={<Board />} />
          <Route path="/types" element={<Types />} />
          <Route path="/types/:id" element={<TypePage />} />
          <Route path="/types/:id/why/:date" element={<Reasons />} />
          <Route path="/types/:id/routing" element={<Routing />} />
          <Route path="/types/:id/offer" element={<Offer />} />
          <Route path="/people" element={<People />} />
          <Route path="/clients" element={<Clients />} />
          <Route path="/clients/:mail" element={<Clients />} />
          <Route path="/hours" element={<Hours />} />
          <Route path="/calendars" element={<Calendars />} />
          <Route path="/workspace" element={<Workspace />} />
          <Route path="/workspace/looks" element={<LooksView />} />
          <Route path="/account" element={<Account />} />
          <Route path="*" element={<Navigate to="/" replace />} />
        </Routes>
      </Shell>
    </UnsavedGuard>
  )
}

const router = createBrowserRouter([
  { path: '/join/:secret', element: <Join /> },
  { path: '/reset/:secret', element: <Reset /> },
  { path: '*', element: <Host /> },
])

const root = document.getElementById('root')
if (root)
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queryClient}>
        <RouterProvider router={router} />
      </QueryClientProvider>
    </StrictMode>,
  )
