import { lazy, StrictMode, Suspense, useEffect, useRef, useState } from 'react'
import { createRoot } from 'react-dom/client'
import { api, need, type Refusal, refusalOf, type Schemas } from '../api/client'
import { speakDatesIn } from '../time/time'
import './page.css'
import { BookPage } from './BookPage'
import { tell, tellWhatIsNeeded } from './embedded'
import { Frame, Speaking } from './Frame'
import { nothingPrepared, peek, take } from './given'
import { LooksOf, useShownLooks, writeTimesAs } from './looks'
import { pressAgain } from './press'
import { keepLanguage, type Language, ownLanguage, SpokenIn, said, type Texts, textsIn, useTexts } from './texts'

// What a client who chooses a time doesn't need yet comes when it is needed.
const BookingPage = lazy(() => import('./BookingPage').then((m) => ({ default: m.BookingPage })))
const Front = lazy(() => import('./Front').then((m) => ({ default: m.Front })))

type Shown =
  | { kind: 'front'; show: Schemas['Showcase'] }
  | {
      kind: 'page'
      workspace: string
      type: string
      page: Schemas['Page']
      prepared: Schemas['Prepared']
      offer?: string
    }
  | { kind: 'booking'; booking: Schemas['ClientBooking']; fresh: boolean }
  | { kind: 'refused'; refusal: Refusal }

/** What is to be shown, with times written as it wants them. */
async function loaded(path: string): Promise<Shown> {
  const shown = await load(path)
  writeTimesAs(looksOf(shown) ?? {})
  return shown
}

/** What an address shows: /p/workspace, /p/workspace/with/person and …/team/team what they offer, /p/workspace/type a page, /b/secret a
 *  booking, /o/secret a one-off offer. */
async function load(path: string): Promise<Shown> {
  const [, kind, first = '', second = '', third = ''] = path.split('/').map(decodeURIComponent)
  try {
    if (kind === 'b') {
      const booking = await need(api.GET('/bookings/{link}', { params: { path: { link: first } } }))
      return { kind: 'booking', booking, fresh: false }
    }
    if (kind === 'o') {
      const page = await need(api.GET('/offers/{link}', { params: { path: { link: first } } }))
      return { kind: 'page', workspace: '', type: '', page, prepared: nothingPrepared, offer: first }
    }
    if (!second) {
      const show = await need(api.GET('/public/{workspace}', { params: { path: { workspace: first } } }))
      return { kind: 'front', show }
    }
    if (second === 'with') {
      const of = { workspace: first, person: third }
      const show = await need(api.GET('/public/{workspace}/with/{person}', { params: { path: of } }))
      return { kind: 'front', show }
    }
    if (second === 'team') {
      const of = { workspace: first, team: third }
      const show = await need(api.GET('/public/{workspace}/team/{team}', { params: { path: of } }))
      return { kind: 'front', show }
    }
    const path = { workspace: first, type: second }
    const [page, prepared] = await Promise.all([
      need(api.GET('/public/{workspace}/{type}', { params: { path } })),
      need(
        api.GET('/public/{workspace}/{type}/prepared', { params: { path, query: { says: location.search.slice(1) } } }),
      ),
    ])
    return { kind: 'page', workspace: first, type: second, page, prepared }
  } catch (error) {
    return { kind: 'refused', refusal: refusalOf(error) }
  }
}

/** The type's page that came with the document. */
function given(): Shown | null {
  const [, , workspace = '', type = ''] = location.pathname.split('/').map(decodeURIComponent)
  const page = take('page')
  const prepared = peek('prepared')
  writeTimesAs(page?.looks ?? {})
  return page && prepared ? { kind: 'page', workspace, type, page, prepared } : null
}

function Client() {
  const [shown, setShown] = useState(given)
  const path = useRef(location.pathname)
  const known = useRef(shown !== null)
  useEffect(() => {
    const show = () => void loaded(location.pathname).then(setShown)
    const moved = () => {
      // Within one page the address says which time was chosen; that is the page's own.
      if (path.current !== location.pathname) show()
      path.current = location.pathname
    }
    if (known.current) known.current = false
    else show()
    addEventListener('popstate', moved)
    return () => removeEventListener('popstate', moved)
  }, [])
  const looks = useShownLooks(looksOf(shown))
  return (
    <LooksOf value={looks}>
      <Suspense fallback={null}>{content()}</Suspense>
    </LooksOf>
  )
  function content() {
    switch (shown?.kind) {
      case 'front':
        return <Front show={shown.show} />
      case 'page':
        return (
          <BookPage
            {...shown}
            onBooked={(booking) => {
              history.pushState(null, '', booking.link)
              path.current = location.pathname
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
            onChange={(booking) => setShown({ ...shown, booking, fresh: shown.booking.state !== 'booked' })}
          />
        )
      case 'refused':
        return <Refused refusal={shown.refusal} />
    }
    return null
  }
}

function looksOf(shown: Shown | null) {
  switch (shown?.kind) {
    case 'front':
      return shown.show.looks
    case 'page':
      return shown.prepared.looks ?? shown.page.looks
    case 'booking':
      return shown.booking.looks
  }
  return undefined
}

function Refused({ refusal }: { refusal: Refusal }) {
  const t = useTexts()
  const head = refusal.status === 404 ? t.nothingHere : t.didNotWork
  useEffect(() => {
    document.title = head
  }, [head])
  return (
    <Frame workspace="Corrim">
      <h1>{head}</h1>
      <p className="mt-2 text-ink-2">{refusal.status === 0 ? t.away : said(t, refusal.told)}</p>
    </Frame>
  )
}

/** The page in the client's language, which can be changed at its foot. */
function Spoken({ first }: { first: { language: Language; texts: Texts } }) {
  const [{ language, texts }, setSpoken] = useState(first)
  const onChange = (to: Language) => {
    keepLanguage(to)
    void textsIn(to).then((loaded) => {
      speak(to, loaded)
      setSpoken({ language: to, texts: loaded })
    })
  }
  useEffect(() => pressAgain(document.body), [])
  return (
    <SpokenIn value={texts}>
      <Speaking.Provider value={{ language, onChange }}>
        <Client />
      </Speaking.Provider>
    </SpokenIn>
  )
}

function speak(language: Language, texts: Texts) {
  speakDatesIn(texts.dates)
  document.documentElement.lang = language
}

async function live(root: HTMLElement) {
  const language = ownLanguage()
  const texts = await textsIn(language)
  speak(language, texts)
  createRoot(root).render(
    <StrictMode>
      <Spoken first={{ language, texts }} />
    </StrictMode>,
  )
}

const root = document.getElementById('root')
if (root) {
  tellWhatIsNeeded(root)
  void live(root).then(() => tell('opened'))
}
