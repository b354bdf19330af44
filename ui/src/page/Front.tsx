import { useEffect } from 'react'
import type { Schemas } from '../api/client'
import { outside, within } from './embedded'
import { Frame } from './Frame'
import { tonesOf } from './looks'
import { telOf } from './tel'
import { useTexts } from './texts'
import { whoIs } from './who'

/** A workspace's page, a person's or a team's: what can be booked there, by category. */
export function Front({ show }: { show: Schemas['Showcase'] }) {
  const t = useTexts()
  const whose = show.person ?? show.team
  useEffect(() => {
    document.title = whose ? `${whose} · ${show.workspace}` : show.workspace
  }, [show, whose])
  return (
    <Frame workspace={show.workspace} home={whose ? show.path : undefined}>
      <h1 className="flex items-center gap-4 text-[22px] sm:text-[29px]">
        {show.photo && <img src={show.photo} alt="" className="size-16 rounded-full object-cover" />}
        {whose ?? show.workspace}
      </h1>
      {show.description && <p className="mt-2 max-w-3xl whitespace-pre-line text-ink-2">{show.description}</p>}
      {show.groups.length === 0 && <p className="mt-6 text-ink-2">{t.nothingOffered}</p>}
      {show.groups.map((group) => (
        <section key={group.category} aria-label={group.category || show.workspace} className="mt-7">
          {group.category && <h2>{group.category}</h2>}
          <ul className="mt-1">
            {group.types.map((type) => (
              <Offered key={type.path} type={type} alone={Boolean(show.person)} />
            ))}
          </ul>
        </section>
      ))}
      {show.more > 0 && <p className="mt-5 text-ink-2">{t.moreTypes(show.more)}</p>}
      <About show={show} />
    </Frame>
  )
}

function Offered({ type, alone }: { type: Schemas['ShowType']; alone: boolean }) {
  const t = useTexts()
  const ways = [...new Set(type.ways.map((way) => t.ways[way]))].join(', ')
  return (
    <li className="grid gap-x-8 border-t border-rule py-3 sm:grid-cols-[1fr_19rem]">
      <div className={type.picture ? 'grid grid-cols-[7rem_1fr] gap-x-4' : ''}>
        {type.picture && <img src={type.picture} alt="" className="row-span-2 h-18 w-28 object-cover" />}
        <a href={within(type.path)} className="text-[17px] font-semibold" style={tonesOf(type)}>
          {type.name}
        </a>
        <p className="whitespace-pre-line text-ink-2">{type.description}</p>
      </div>
      <p className="text-note text-ink-2">
        {type.lengths.length > 1 && `${type.lengths[0]} – `}
        {t.minutes(type.lengths.at(-1) ?? 0)}, {ways}
        {type.onRequest && `, ${t.onRequest}`}
        {!alone && <span className="block text-ink-3">{`${t.with} ${whoIs(type, t)}`}</span>}
      </p>
    </li>
  )
}

/** How to reach the workspace, and the pages of its people. */
function About({ show }: { show: Schemas['Showcase'] }) {
  const t = useTexts()
  return (
    <div className="mt-8 flex flex-wrap gap-x-16 gap-y-5 border-t border-rule-strong pt-4 text-note text-ink-2">
      {show.people.length > 0 && (
        <div>
          <h2 className="font-text text-note font-semibold">{t.ourPeople}</h2>
          <ul>
            {show.people.map(({ name, path, photo }) => (
              <li key={path} className="flex items-center gap-2 py-0.5">
                {photo && <img src={photo} alt="" className="size-7 rounded-full object-cover" />}
                <a href={within(path)}>{name}</a>
              </li>
            ))}
          </ul>
        </div>
      )}
      <address className="whitespace-pre-line not-italic">
        {show.address}
        {show.address && '\n'}
        {show.phone && <a href={telOf(show.phone)}>{show.phone}</a>}
        {show.phone && '\n'}
        {show.mail && <a href={`mailto:${show.mail}`}>{show.mail}</a>}
        {show.mail && '\n'}
        {show.web && (
          <a href={show.web} {...outside}>
            {show.web.replace(/^https?:\/\//, '')}
          </a>
        )}
      </address>
    </div>
  )
}
