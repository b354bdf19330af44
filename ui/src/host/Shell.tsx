import { type MouseEvent, type ReactNode, useCallback, useEffect, useState } from 'react'
import { useLocation } from 'react-router'
import type { Schemas } from '../api/client'
import { useGo } from '../edit/unsaved'
import { Ask } from '../kit/Ask'
import { Need } from '../kit/kit'
import { Sign } from '../page/Frame'
import { say } from '../say'
import { clock, placeOf } from '../time/time'
import { Find, useFindKeys } from './find/Find'
import { useSignOut, useToday } from './queries'
import { isTyping } from './useKey'

const views = [
  { path: '/', name: say.shell.today },
  { path: '/board', name: say.shell.board },
  { path: '/types', name: say.shell.meetingTypes },
  { path: '/hours', name: say.shell.hours },
  { path: '/calendars', name: say.shell.calendars },
  { path: '/people', name: say.shell.people },
  { path: '/clients', name: say.shell.clients },
  { path: '/messages', name: say.shell.messages },
  { path: '/workspace', name: say.shell.workspace },
]

/** What else has an address of its own, in no place of the rail. */
const others = [
  { path: '/account', name: say.shell.account },
  { path: '/begin', name: say.begin.settingUp },
  { path: '/share', name: say.share.share },
]

const isAt = (pathname: string) => (view: { path: string }) =>
  view.path === '/' ? pathname === '/' : pathname.startsWith(view.path)

/** The rail at the left, and the keys that lead to each view. */
export function Shell({ person, children }: { person: Schemas['Person']; children: ReactNode }) {
  const go = useGo()
  const [keysShown, setKeysShown] = useState(false)
  const [finding, setFinding] = useState(false)
  useFindKeys(useCallback(() => setFinding(true), []))
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || isTyping(event.target)) return
      const view = event.key === 't' ? views[0] : views[Number(event.key) - 1]
      if (view) go(view.path)
      if (event.key === '?') setKeysShown(true)
    }
    addEventListener('keydown', press)
    return () => removeEventListener('keydown', press)
  }, [go])

  return (
    <div className="grid min-h-screen grid-cols-[minmax(0,1fr)] max-md:grid-rows-[auto_1fr] md:grid-cols-[10.4rem_1fr]">
      <Rail person={person} onFind={() => setFinding(true)} onKeys={() => setKeysShown(true)} />
      <div className="min-w-0">{children}</div>
      {finding && <Find zone={person.zone} onClose={() => setFinding(false)} />}
      <Ask
        open={keysShown}
        title={say.shell.keys}
        yes={say.shell.close}
        no={say.shell.closeThis}
        onYes={() => setKeysShown(false)}
        onNo={() => setKeysShown(false)}
      >
        {say.shell.allKeys}
      </Ask>
    </div>
  )
}

/** How much has to be decided or mended. */
const urgent = ({ troubles, clashes, doubts, requests }: Schemas['Today']) =>
  troubles.length + clashes.length + doubts.length + requests.length

function Rail(props: { person: Schemas['Person']; onFind: () => void; onKeys: () => void }) {
  const { person, onFind, onKeys } = props
  const { pathname } = useLocation()
  const today = useToday()
  const signOut = useSignOut()
  const follow = useFollow()
  const needs: Record<string, number> = {
    '/': today.data ? urgent(today.data) : 0,
  }
  return (
    <nav
      aria-label={say.shell.views}
      className="flex min-w-0 flex-col border-rule-strong pt-3 max-md:border-b max-md:pb-2 md:sticky md:top-0 md:h-screen md:border-r"
    >
      <p className="mb-3 flex items-center gap-2.5 pl-5 font-head text-[22px] max-md:hidden">
        {say.shell.corrim(<Sign />)}
      </p>
      <ul className="max-md:flex max-md:overflow-x-auto">
        {views.map((view, i) => {
          return (
            <li key={view.path}>
              <RailLink path={view.path} here={isAt(pathname)(view)}>
                <span className="flex-1 whitespace-nowrap">{view.name}</span>
                {needs[view.path] ? (
                  <span
                    className="rounded-full bg-need px-1.5 text-small text-on-act"
                    title={say.shell.needYou(needs[view.path] ?? 0)}
                  >
                    {needs[view.path]}
                  </span>
                ) : (
                  <kbd
                    className="rounded-(--radius) border border-b-2 border-rule px-1.5 font-text text-small text-ink-3 max-md:hidden"
                    title={say.shell.key(i + 1)}
                  >
                    {i + 1}
                  </kbd>
                )}
              </RailLink>
            </li>
          )
        })}
        <li className="max-md:order-first">
          <button
            type="button"
            className="flex w-full items-center gap-2 border-l-3 border-transparent py-1.5 pr-3.5 pl-4 text-left text-base"
            onClick={onFind}
          >
            <span className="flex-1 whitespace-nowrap">{say.shell.find}</span>
            <kbd
              className="rounded-(--radius) border border-b-2 border-rule px-1.5 font-text text-small text-ink-3 max-md:hidden"
              title={say.shell.findKeys}
            >
              /
            </kbd>
          </button>
        </li>
        <li className="md:hidden">
          <RailLink path="/account" here={pathname === '/account'}>
            <span className="whitespace-nowrap">{say.shell.account}</span>
          </RailLink>
        </li>
      </ul>
      <div className="mt-auto px-5 pb-5 text-note max-md:hidden">
        <p>
          <a href="/account" onClick={follow('/account')} aria-current={pathname === '/account' ? 'page' : undefined}>
            {person.name}
          </a>
        </p>
        <p className="text-small text-ink-2">
          {placeOf(person.zone)} · {clock(new Date(), person.zone)}
        </p>
        <button type="button" className="link text-small" onClick={() => signOut.mutate()}>
          {say.shell.signOut}
        </button>
        <span className="text-small text-ink-3"> · </span>
        <button type="button" className="link text-small" onClick={onKeys}>
          {say.shell.keys}
        </button>
      </div>
    </nav>
  )
}

/** Follows a link within the application, unless it is to open elsewhere. */
function useFollow() {
  const go = useGo()
  return (path: string) => (event: MouseEvent) => {
    if (event.ctrlKey || event.metaKey || event.shiftKey) return
    event.preventDefault()
    go(path)
  }
}

function RailLink({ path, here, children }: { path: string; here: boolean; children: ReactNode }) {
  const follow = useFollow()
  return (
    <a
      href={path}
      aria-current={here ? 'page' : undefined}
      onClick={follow(path)}
      className={`flex items-center gap-2 border-l-3 py-1.5 pr-3.5 pl-4 text-base no-underline! ${
        here ? 'border-act font-semibold text-act!' : 'border-transparent text-ink!'
      }`}
    >
      {children}
    </a>
  )
}

/** A view: its title and what can be done at the top, its matter in the middle, its consequence at the right. */
export function View(props: {
  title: string
  note?: ReactNode
  actions?: ReactNode
  /** The strip of its parts, if it has parts. */
  parts?: ReactNode
  /** What stays in sight at the bottom while something is not saved. */
  bar?: ReactNode
  children: ReactNode
  aside?: ReactNode
  asideWidth?: string
  /** While what it shows isn't read yet. */
  busy?: boolean
}) {
  return (
    <div className="flex min-h-screen flex-col">
      <header className="flex min-h-17.5 flex-wrap items-center gap-x-5 gap-y-2 px-6.5 py-3">
        <h1>{props.title}</h1>
        <div className="min-w-0 text-note text-ink-2 has-[.facts]:grow has-[.facts]:basis-72">{props.note}</div>
        <div className="ml-auto flex flex-wrap items-center gap-x-4 gap-y-2 text-note">{props.actions}</div>
      </header>
      {props.parts}
      <div
        className="grid flex-1 grid-cols-[minmax(0,1fr)] lg:grid-cols-[minmax(0,1fr)_var(--aside)]"
        style={{ '--aside': props.aside ? (props.asideWidth ?? '23.7rem') : '0px' } as React.CSSProperties}
      >
        <main tabIndex={-1} aria-busy={props.busy} className="min-w-0 px-6.5 pb-10 outline-none">
          {props.children}
        </main>
        {props.aside && (
          <aside
            aria-label={say.shell.whatComes}
            className="border-rule-strong bg-sheet px-6 pt-2 pb-8 max-lg:border-t lg:border-l"
          >
            {/* It stays in sight, and if it is long it scrolls by itself, so it has to be reachable by keys. */}
            {/* biome-ignore lint/a11y/noNoninteractiveTabindex: see above */}
            <div tabIndex={0} className="lg:sticky lg:top-2 lg:max-h-[calc(98vh-4rem)] lg:overflow-y-auto">
              {props.aside}
            </div>
          </aside>
        )}
      </div>
      {props.bar}
    </div>
  )
}

/** A view while its matter isn't read yet, or when it could not be: its name, and what is the matter. */
export function Unread({ error }: { error?: Error | null }) {
  const { pathname } = useLocation()
  const name = [...views, ...others].find(isAt(pathname))?.name ?? ''
  return (
    <View title={name} busy={!error}>
      {error ? <Need>{error.message}</Need> : <Reading />}
    </View>
  )
}

/** Said only when it takes a while: most are there at once. */
function Reading() {
  const [long, setLong] = useState(false)
  useEffect(() => {
    const after = setTimeout(() => setLong(true), 400)
    return () => clearTimeout(after)
  }, [])
  return (
    <p role="status" className="text-ink-2">
      {long && say.shell.reading}
    </p>
  )
}
