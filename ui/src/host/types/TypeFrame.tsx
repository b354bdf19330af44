import type { ReactNode } from 'react'
import type { Schemas } from '../../api/client'
import { useGo } from '../../edit/unsaved'
import { say, told } from '../../say'
import { Faces } from '../Initials'
import { useTypeFacts } from '../queries'
import { View } from '../Shell'
import { Undo } from '../Undo'

type Type = Schemas['MeetingType']

const parts = [
  { name: say.types.times, path: '' },
  { name: say.types.sessions, path: '/sessions' },
  { name: say.types.bookingPage, path: '/booking-page' },
  { name: say.types.hosts, path: '/routing' },
  { name: say.messages.messages, path: '/messages' },
  { name: say.types.share, path: '/share' },
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
          <Undo unsaved={changed} />
          <a href={type.path} target="_blank" rel="noreferrer">
            {say.types.viewClient}
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

/** Sessions are a part of those types that have some. */
function partsOf(type: Type, part: string) {
  return parts.filter(({ name }) => name !== say.types.sessions || name === part || type.rules.sessions)
}

function Strip({ type, part }: { type: Type; part: string }) {
  const go = useGo()
  return (
    <nav aria-label={say.types.parts(type.name)} className="mx-6.5 mb-4 border-b border-rule-strong">
      <ul className="flex flex-wrap gap-x-6">
        {partsOf(type, part).map(({ name, path }) => (
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

const listing = { listed: say.types.isListed, link: say.types.linkOnly, off: say.types.switchedOff }
const who = { anyone: '', organisation: say.types.peopleWorkspace, nobody: say.types.bookedHandOnly }

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
              {say.types.openNext(
                <b className="figures font-semibold text-ink">{facts.data.open}</b>,
                facts.data.open === 1,
              )}
            </span>
          ) : (
            <span>
              <b className="font-semibold text-need">{say.types.nothingOpenNext14}</b> {told(facts.data.mend?.sentence)}
            </span>
          )}
        </>
      )}
    </span>
  )
}

/** So many faces are drawn; the others are counted. */
const mostFaces = 5

const modes: Record<Schemas['Crew']['mode'], string> = {
  client: say.types.clientsChoice,
  turn: say.types.oneOf,
  order: say.types.firstFree,
  least: say.types.leastBooked,
  together: say.types.allOf,
  some: say.types.someOf,
}

function HostedBy({ crew: { hosts, mode } }: { crew: Schemas['Crew'] }) {
  if (hosts.length === 0) return <span className="text-need">{say.types.nobodyHosts}</span>
  if (hosts.length === 1) return <span>{say.types.hostedBySomebody(hosts[0]?.name)}</span>
  return (
    <span className="flex items-center gap-1">
      {say.types.hostedByWay(modes[mode])}
      <Faces people={hosts} most={mostFaces} />
    </span>
  )
}
