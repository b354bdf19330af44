import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { useNavigate, useParams, useSearchParams } from 'react-router'
import { api, need, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { useGo } from '../../edit/unsaved'
import { axisFor } from '../../ribbon/geometry'
import { useZoom } from '../../ribbon/ZoomRuler'
import { say, told } from '../../say'
import { clock, longDate, minuteText, shortDate, wallClock } from '../../time/time'
import { useType, useTypes } from '../queries'
import { Unread, View } from '../Shell'
import { Layers } from './Layers'

/** Where a day of a type is explained, at a minute of its wall clock. */
export function reasonsPath(
  type: number,
  date: string,
  { minute, length, host }: { minute?: number; length?: number; host?: number } = {},
): string {
  const query = new URLSearchParams()
  if (minute !== undefined) query.set('at', String(minute))
  if (length) query.set('length', String(length))
  if (host) query.set('host', String(host))
  return `/types/${type}/why/${date}${query.size ? `?${query}` : ''}`
}

const firstLook = 10 * 60

/** A day of a meeting type opened into one line per rule, and why one time of it is open or not. */
export function Reasons() {
  const { id = '', date = '' } = useParams()
  const [search] = useSearchParams()
  const go = useGo()
  const asAddressed = Number(search.get('at') ?? firstLook)
  const length = Number(search.get('length') ?? 0)
  const host = Number(search.get('host') ?? 0)
  // The cursor runs ahead of the address, so that keys held down lose no step.
  const [minute, setMinute] = useState(asAddressed)
  useEffect(() => setMinute(asAddressed), [asAddressed])
  const asked = useQuery({
    queryKey: keys.reasons(id, date, minute, length, host),
    queryFn: () =>
      need(
        api.GET('/types/{id}/reasons/{date}', {
          params: { path: { id: Number(id), date }, query: { minute, length, host } },
        }),
      ),
    placeholderData: keepPreviousData,
  })
  useEffect(() => {
    const back = (event: KeyboardEvent) => event.key === 'Escape' && go(`/types/${id}`)
    addEventListener('keydown', back)
    return () => removeEventListener('keydown', back)
  }, [go, id])

  if (!asked.data) return <Unread error={asked.error} />
  return <Opened reasons={asked.data} place={{ id, date, length, host }} minute={minute} onAt={setMinute} />
}

/** Which day of which type is looked at, for which length and host. */
interface Place {
  id: string
  date: string
  length: number
  host: number
}

interface OpenedProps {
  reasons: Schemas['Reasons']
  place: Place
  minute: number
  onAt: (minute: number) => void
}

function Opened({ reasons, place, minute, onAt }: OpenedProps) {
  const { id, date, length, host } = place
  const navigate = useNavigate()
  const go = useGo()
  const [axis, zoom] = useZoom(
    axisFor([...reasons.ribbon.open, ...reasons.ribbon.bookings, { from: minute, to: minute }], {
      from: 7 * 60,
      to: 19 * 60,
    }),
  )
  const shown = minuteText(reasons.at.minute)
  return (
    <View
      title={reasons.offered ? say.types.isOpen(shown) : say.types.whyNotOpen(shown)}
      note={
        <>
          <HostChoice
            reasons={reasons}
            onChoose={(chosen) => go(reasonsPath(Number(id), date, { minute, length, host: chosen }))}
          />{' '}
          · {longDate(reasons.ribbon.date)} · <TypeChoice id={id} date={date} minute={minute} />
          {reasons.lengths.length > 1 && (
            <>
              {' '}
              {say.types.forLength}{' '}
              <select
                aria-label={say.types.length}
                className="border-0 border-b border-dotted border-act bg-ground text-act"
                value={reasons.minutes}
                onChange={(event) =>
                  go(reasonsPath(Number(id), date, { minute, length: Number(event.target.value), host }))
                }
              >
                {reasons.lengths.map((minutes) => (
                  <option key={minutes} value={minutes}>
                    {say.types.minutes(minutes)}
                  </option>
                ))}
              </select>
            </>
          )}
        </>
      }
      actions={
        <>
          <DayStep place={place} by={-1} />
          <DayStep place={place} by={1} />
          <a href={`/api/types/${id}/reasons/${date}/scenario.json`} download="scenario.json">
            {say.types.saveScenario}
          </a>
        </>
      }
      aside={<Answer reasons={reasons} place={place} />}
      asideWidth="20rem"
    >
      <Layers
        reasons={reasons}
        axis={axis}
        minute={minute}
        onZoom={zoom}
        onAt={(at) => {
          onAt(at)
          navigate(reasonsPath(Number(id), date, { minute: at, length, host }), { replace: true })
        }}
      />
      <p className="mt-4 max-w-3xl text-note text-ink-2">{say.types.eachLineShowsWhat}</p>
    </View>
  )
}

/** Whose times are explained; one who hosts it alone is just named. */
function HostChoice({ reasons, onChoose }: { reasons: Schemas['Reasons']; onChoose: (host: number) => void }) {
  const { hosts, host } = reasons.crew
  if (hosts.length < 2) return reasons.host
  return (
    <select
      aria-label={say.types.host}
      className="border-0 border-b border-dotted border-act bg-ground text-act"
      value={host}
      onChange={(event) => onChoose(Number(event.target.value))}
    >
      {hosts.map(({ id, name }) => (
        <option key={id} value={id}>
          {name}
        </option>
      ))}
    </select>
  )
}

/** The same day and time for another of the types. */
function TypeChoice({ id, date, minute }: { id: string; date: string; minute: number }) {
  const types = useTypes(true).data ?? []
  const shown = useType(Number(id)).data
  const go = useGo()
  const all = !shown || types.some((type) => type.id === shown.id) ? types : [shown, ...types]
  return (
    <select
      aria-label={say.types.meetingType}
      className="border-0 border-b border-dotted border-act bg-ground text-act"
      value={id}
      onChange={(event) => go(reasonsPath(Number(event.target.value), date, { minute }))}
    >
      {all.map((type) => (
        <option key={type.id} value={type.id}>
          {type.name}, {type.rules.before ? `${type.rules.before} + ` : ''}
          {say.types.minutesWithBuffer(type.rules.duration, type.rules.after)}
        </option>
      ))}
    </select>
  )
}

function DayStep({ place: { id, date, length, host }, by }: { place: Place; by: number }) {
  const go = useGo()
  const to = new Date(`${date}T12:00:00Z`)
  to.setUTCDate(to.getUTCDate() + by)
  const day = to.toISOString().slice(0, 10)
  return (
    <button type="button" className="link" onClick={() => go(reasonsPath(Number(id), day, { length, host }))}>
      {by < 0 ? '‹ ' : ''}
      {shortDate(day)}
      {by > 0 ? ' ›' : ''}
    </button>
  )
}

/** What every rule says about the time, and the nearest open ones. */
function Answer({ reasons, place }: { reasons: Schemas['Reasons']; place: Place }) {
  const go = useGo()
  const { at, zone, minutes, kept } = reasons
  const { id, length, host } = place
  return (
    <section aria-label={say.types.answerRuleRule} aria-live="polite">
      <h2 className="pt-1">
        {longDate(reasons.ribbon.date)}, {minuteText(at.minute)}
      </h2>
      <p className="mb-2 text-note text-ink-2">
        {say.types.would(minuteText(at.minute), minuteText((at.minute + minutes) % 1440))}
        {kept > minutes && say.types.minutesDayBuffers(kept)}
      </p>
      {reasons.crew.hosts.length > 1 && <Pool reasons={reasons} />}
      <ul>
        {at.rules.map((rule) => (
          <li key={rule.rule} className="grid grid-cols-[1.3rem_1fr] border-b border-rule py-2">
            <span aria-hidden="true" className={rule.holds ? '' : 'text-need'}>
              {rule.holds ? '✓' : '✕'}
            </span>
            <div>
              <p className={rule.holds ? '' : 'font-semibold text-need'}>
                {told(rule.name)}
                <span className="sr-only">{rule.holds ? say.types.holds : say.types.fails}</span>
              </p>
              {rule.sentences.map((sentence) => (
                <p key={sentence.sentence} className="text-note text-ink-2">
                  {told(sentence)}
                </p>
              ))}
            </div>
          </li>
        ))}
      </ul>
      {at.nearest.length > 0 && (
        <p className="mt-3 text-note text-ink-2">
          {say.types.nearestOpenStarts}{' '}
          {at.nearest.map((text) => {
            const { date, minute } = wallClock(new Date(text), zone)
            return (
              <button
                key={text}
                type="button"
                className="link mr-3 font-semibold"
                onClick={() => go(reasonsPath(Number(id), date, { minute, length, host }))}
              >
                {shortDate(date)} {clock(new Date(text), zone)}
              </button>
            )
          })}
        </p>
      )}
      <p className="mt-2 text-note">
        <button type="button" className="link" onClick={() => go(`/types/${id}`)}>
          {say.types.changeMeetingType}
        </button>
      </p>
    </section>
  )
}

/** What each host says to the time, where there are several. */
function Pool({ reasons }: { reasons: Schemas['Reasons'] }) {
  return (
    <>
      <p className="text-note">
        {reasons.offered ? say.types.clientsCanBook : say.types.clientsCantBook}{' '}
        {reasons.crew.mode === 'together' ? say.types.everybodyHasOpen : say.types.whoOpen}
      </p>
      <ul className="mb-3 text-note">
        {reasons.pool.map(({ id, name, open, why }) => (
          <li key={id} className={open ? '' : 'text-ink-2'}>
            {name}: {say.types.openOrWhy(open ? undefined : told(why))}
          </li>
        ))}
      </ul>
      <p className="text-note text-ink-2">{say.types.ruleRule(reasons.host)}</p>
    </>
  )
}
