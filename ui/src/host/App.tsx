import { lazy, type ReactNode, Suspense } from 'react'
import { createBrowserRouter, Navigate, Route, RouterProvider, Routes, useMatch } from 'react-router'
import { UnsavedGuard } from '../edit/unsaved'
import { Need } from '../kit/kit'
import { showTwelve } from '../time/time'
import { Sure } from './account/Sure'
import { nameLookedAfter } from './lookingAfter'
import { useMe } from './queries'
import { Shell, Unread } from './Shell'
import { SignIn } from './SignIn'
import { Today } from './today/Today'

// The first view is there at once; each other one is loaded when it is used.
const ShareType = lazy(() => import('./share/Share').then(({ ShareType }) => ({ default: ShareType })))
const SharePage = lazy(() => import('./share/Share').then(({ SharePage }) => ({ default: SharePage })))
const Account = lazy(() => import('./account/Account').then(({ Account }) => ({ default: Account })))
const Begin = lazy(() => import('./begin/Begin').then(({ Begin }) => ({ default: Begin })))
const Steps = lazy(() => import('./begin/Steps').then(({ Steps }) => ({ default: Steps })))
const Board = lazy(() => import('./board/Board').then(({ Board }) => ({ default: Board })))
const Calendars = lazy(() => import('./calendars/Calendars').then(({ Calendars }) => ({ default: Calendars })))
const Clients = lazy(() => import('./clients/Clients').then(({ Clients }) => ({ default: Clients })))
const Hours = lazy(() => import('./hours/Hours').then(({ Hours }) => ({ default: Hours })))
const Join = lazy(() => import('./Join').then(({ Join }) => ({ default: Join })))
const LooksView = lazy(() => import('./looks/LooksView').then(({ LooksView }) => ({ default: LooksView })))
const Messages = lazy(() => import('./messages/Messages').then(({ Messages }) => ({ default: Messages })))
const TypeMessages = lazy(() => import('./messages/Messages').then(({ TypeMessages }) => ({ default: TypeMessages })))
const BookingPage = lazy(() =>
  import('./bookingpage/BookingPage').then(({ BookingPage }) => ({ default: BookingPage })),
)
const People = lazy(() => import('./people/People').then(({ People }) => ({ default: People })))
const Reset = lazy(() => import('./account/Reset').then(({ Reset }) => ({ default: Reset })))
const Routing = lazy(() => import('./routing/Routing').then(({ Routing }) => ({ default: Routing })))
const Reasons = lazy(() => import('./types/Reasons').then(({ Reasons }) => ({ default: Reasons })))
const SignSheet = lazy(() => import('./board/SignSheet').then(({ SignSheet }) => ({ default: SignSheet })))
const Sessions = lazy(() => import('./types/Sessions').then(({ Sessions }) => ({ default: Sessions })))
const TypePage = lazy(() => import('./types/TypePage').then(({ TypePage }) => ({ default: TypePage })))
const Types = lazy(() => import('./types/Types').then(({ Types }) => ({ default: Types })))
const Workspace = lazy(() => import('./workspace/Workspace').then(({ Workspace }) => ({ default: Workspace })))

nameLookedAfter()

/** A view without the rail. */
function alone(view: ReactNode) {
  return <Suspense>{view}</Suspense>
}

function Host() {
  const me = useMe()
  const paper = useMatch('/board/sign/:id')
  if (me.error) return <Need className="m-10">{me.error.message}</Need>
  if (!me.data) return null
  showTwelve(me.data.clock12 ?? false)
  if (me.data.empty) return alone(<Begin />)
  if (!me.data.person) return <SignIn demo={me.data.demo} />
  if (paper)
    return alone(
      <Routes>
        <Route path="/board/sign/:id" element={<SignSheet />} />
      </Routes>,
    )
  return (
    <UnsavedGuard>
      <Sure />
      <Shell person={me.data.person}>
        <Suspense fallback={<Unread />}>
          <Routes>
            <Route path="/" element={<Today />} />
            <Route path="/begin" element={<Steps />} />
            <Route path="/board" element={<Board />} />
            <Route path="/messages" element={<Messages />} />
            <Route path="/types" element={<Types />} />
            <Route path="/types/:id" element={<TypePage />} />
            <Route path="/types/:id/why/:date" element={<Reasons />} />
            <Route path="/types/:id/routing" element={<Routing />} />
            <Route path="/types/:id/booking-page" element={<BookingPage />} />
            <Route path="/types/:id/offer" element={<Navigate to="../booking-page" relative="path" replace />} />
            <Route path="/types/:id/sessions" element={<Sessions />} />
            <Route path="/types/:id/messages" element={<TypeMessages />} />
            <Route path="/types/:id/share" element={<ShareType />} />
            <Route path="/share/:kind/:id" element={<SharePage />} />
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
        </Suspense>
      </Shell>
    </UnsavedGuard>
  )
}

const router = createBrowserRouter([
  { path: '/join/:secret', element: alone(<Join />) },
  { path: '/reset/:secret', element: alone(<Reset />) },
  { path: '*', element: <Host /> },
])

/** The host's application, at whatever address. */
export function App() {
  return <RouterProvider router={router} />
}
