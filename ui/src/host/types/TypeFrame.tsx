import type { ReactNode } from 'react'
import type { Schemas } from '../../api/client'
import { useGo } from '../../edit/unsaved'
import { Faces } from '../Initials'
import { useTypeFacts } from '../queries'
import { View } from '../Shell'
import { Undo } from '../Undo'

type Type = Schemas['MeetingType']

const parts = [
  { name: 'Times', path: '' },
  { name: 'Booking page', path: '/offer' },
  { name: 'Hosts', path: '/routing' },
  { name: 'Share', path: '/share' },
] as const

interface Props {
  type: Type
  /** Its name as it is being edited, if it is. */
  name?: string
  part: (typeof parts)[number]['name']
  /** What stays in sight while something is not saved. */
  bar: ReactNode
  changed: boolean
  aside: ReactNode
  asideWidth: string
  children: ReactNode
}

/** The one frame of a meeting type's pages: its name, the facts that matter, the strip of its parts. */
export function TypeFrame({ type, name, part, bar, changed, aside, asideWidth, children }: Props) {
  return (
    <View
      title={name || type.name}
      note={<Facts type={type} />}
      actions={
        <>
          {!changed && <Undo />}
          <a href={type.path} target="_blank" rel="noreferrer">
            View as client
          </a>
        </>
      }
      parts={<Strip type={type} part={part} />}
      bar={bar}
      aside={aside}
      asideWidth={asideWidth}
    >
      {children}
    </View>
  )
}

function Strip({ type, part }: { type: Type; part: string }) {
  const go = useGo()
  return (
    <nav aria-label={`Parts of ${type.name}`} className="mx-6.5 mb-4 border-b border-rule-strong">
      <ul className="flex flex-wrap gap-x-6">
        {parts.map(({ name, path }) => (
          <li key={name}>
            <a
              href={`/types/${type.id}${path}`}
              aria-current={name === part ? 'page' : undefined}
              className="-mb-px block border-b-3 border-transparent py-1.5 text-ink-2! no-underline! hover:text-act! aria-[current=page]:border-act aria-[current=page]:font-semibold aria-[current=page]:text-act!"
              onClick={(event) => {
                if (event.metaKey || event.ctrlKey || event.shiftKey) return
                event.preventDefault()
                go(`/types/${type.id}${path}`)
              }}
            >
              {name}
            </a>
          </li>
        ))}
      </ul>
    </nav>
  )
}

const listing = { listed: 'Listed', link: 'By link only', off: 'Switched off' }
const who = { anyone: '', organisation: 'for people of the workspace', nobody: 'booked by hand only' }

/** Whether and by whom it can be booked, who hosts it, and how much is open for all its hosts as they are routed. */
function Facts({ type }: { type: Type }) {
  const facts = useTypeFacts(type.id)
  return (
    // Many facts wrap beside the actions, instead of sending these to a line of their own.
    <span className="facts flex flex-wrap items-center gap-x-3 gap-y-1">
      <span>{[listing[type.listing], who[type.who]].filter(Boolean).join(', ')}</span>
      {facts.data && (
        <>
          <HostedBy crew={facts.data} />
          {facts.data.open > 0 ? (
            <span>
              <b className="figures font-semibold text-ink">{facts.data.open}</b> open{' '}
              {facts.data.open === 1 ? 'start' : 'starts'} in the next 14 days
            </span>
          ) : (
            <span>
              <b className="font-semibold text-need">Nothing open in the next 14 days.</b> {facts.data.mend?.sentence}
            </span>
          )}
        </>
      )}
    </span>
  )
}

/** So many faces are drawn; the others are counted. */
const mostFaces = 5

const ways: Record<Schemas['Crew']['way'], string> = {
  client: 'the client’s choice of',
  turn: 'one of',
  order: 'the first free of',
  least: 'the least booked of',
  together: 'all of',
  some: 'some of',
}

function HostedBy({ crew: { hosts, way } }: { crew: Schemas['Crew'] }) {
  if (hosts.length === 0) return <span className="text-need">Nobody hosts it</span>
  if (hosts.length === 1) return <span>Hosted by {hosts[0]?.name}</span>
  return (
    <span className="flex items-center gap-1">
      Hosted by {ways[way]}
      <Faces people={hosts} most={mostFaces} />
    </span>
  )
}
