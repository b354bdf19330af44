import { Fragment, useState } from 'react'
import { api, need, type Schemas } from '../../api/client'
import { useGo } from '../../edit/unsaved'
import { Button, Need } from '../../kit/kit'
import { axisFor } from '../../ribbon/geometry'
import { DayRibbon, Ruler } from '../../ribbon/Ribbon'
import { longDate, minuteText, placeOf, shortDate, wallClock } from '../../time/time'
import { Away } from '../people/Away'
import { useMe, useToday } from '../queries'
import { View } from '../Shell'
import { stepWords } from '../steps'
import { reasonsPath } from '../types/Reasons'
import { useKey } from '../useKey'
import { Clash } from './Clash'
import { Meeting } from './Meeting'
import { Request } from './Request'
import { useSettle, Way } from './settle'

export function Today() {
  const today = useToday()
  if (today.error && !today.data) return <Need className="m-10">{today.error.message}</Need>
  if (!today.data) return null
  const t = today.data
  return (
    <View
      title={longDate(t.date)}
      note={`${minuteText(t.minute)} in ${placeOf(t.zone)}`}
      actions={<OwnAway />}
      aside={<Beside today={t} />}
    >
      <GoOnSettingUp />
      <TodayRibbon today={t} />
      {t.gathering && (
        <p role="status" className="mb-4 text-note text-ink-2">
          Looking through your colleagues’ bookings …
        </p>
      )}
      <Requests today={t} />
      <Meetings today={t} />
    </View>
  )
}

function TodayRibbon({ today }: { today: Schemas['Today'] }) {
  const { ribbon } = today
  const go = useGo()
  const type = today.open[0]
  const why = () => type && go(reasonsPath(type.id, today.date, { minute: Math.ceil(today.minute / 5) * 5 }))
  useKey('e', why)
  const axis = axisFor([...ribbon.open, ...ribbon.bookings], { from: 8 * 60, to: 18 * 60 })
  return (
    <div className="mb-2 [&_.ribbon]:h-11.5">
      <Ruler axis={axis} />
      <DayRibbon day={ribbon} axis={axis} name="Today" now={today.minute} />
      {type && (
        <p className="mt-1 text-right text-small">
          <button type="button" className="link" onClick={why} title="Key e">
            Why is a time open or not?
          </button>
        </p>
      )}
    </div>
  )
}

/** What is done if one is away oneself: today, or on other days. */
function OwnAway() {
  const [open, setOpen] = useState(false)
  const me = useMe().data?.person
  if (!me || me.role === 'viewer') return null
  return (
    <>
      <Button kind="text" onClick={() => setOpen(true)}>
        I am away …
      </Button>
      {open && <Away person={me} onDone={() => setOpen(false)} />}
    </>
  )
}

function GoOnSettingUp() {
  const setup = useMe().data?.setup ?? 0
  const go = useGo()
  if (setup === 0) return null
  return (
    <p className="mb-4 border-l-3 border-act pl-3">
      Setting up is not finished yet.{' '}
      <button type="button" className="link" onClick={() => go('/begin')}>
        Continue setting up
      </button>
    </p>
  )
}

/** What clients ask for, the most urgent first. */
function Requests({ today }: { today: Schemas['Today'] }) {
  if (today.requests.length === 0) return null
  return (
    <section aria-labelledby="requests-head" className="mb-6">
      <h2 id="requests-head" className="mb-1">
        To decide
      </h2>
      {today.requests.map((request) => (
        <Request key={request.id} request={request} zone={today.zone} />
      ))}
    </section>
  )
}

/** Today's meetings, then those of the coming week by day. */
function Meetings({ today }: { today: Schemas['Today'] }) {
  const now = new Date(today.now)
  const next = today.meetings.find((m) => new Date(m.end) > now)
  const byDate = Map.groupBy(today.meetings, (m) => wallClock(new Date(m.start), today.zone).date)
  const ofToday = byDate.get(today.date) ?? []
  byDate.delete(today.date)
  return (
    <>
      {ofToday.length === 0 && (
        <p className="border-b border-rule py-4 text-ink-2">
          No meetings today.
          {today.meetings.length === 0 && ' Send somebody the link of a meeting type, and what they book stands here.'}
        </p>
      )}
      {ofToday.map((meeting) => (
        <Meeting key={meeting.id} meeting={meeting} now={now} zone={today.zone} next={meeting === next} />
      ))}
      <Others today={today} />
      {[...byDate].map(([date, meetings]) => (
        <Fragment key={date}>
          <h2 className="mt-6 mb-1">{longDate(date)}</h2>
          {meetings.map((meeting) => (
            <Meeting key={meeting.id} meeting={meeting} now={now} zone={today.zone} next={meeting === next} />
          ))}
        </Fragment>
      ))}
    </>
  )
}

/** For a coordinator: what the colleagues have today and tomorrow, with the way into each room. */
function Others({ today }: { today: Schemas['Today'] }) {
  if (today.others.length === 0) return null
  const now = new Date(today.now)
  return (
    <section aria-labelledby="others-head" className="mt-8">
      <h2 id="others-head">Colleagues, today and tomorrow</h2>
      <ul className="mt-1">
        {today.others.map((meeting) => {
          const start = new Date(meeting.start)
          const over = new Date(meeting.end) <= now
          return (
            <li
              key={`${meeting.host} ${meeting.id}`}
              className={`grid grid-cols-[7.6rem_9rem_1fr_auto] items-baseline max-sm:grid-cols-[minmax(0,1fr)_auto] gap-x-3 border-t border-rule py-1.5 text-note ${over ? 'text-ink-3' : ''}`}
            >
              <span className="figures">{shortWhen(start, today.zone)}</span>
              <b className="font-semibold">{meeting.host}</b>
              <span>
                {meeting.client}, {meeting.type}
              </span>
              {!over && meeting.joinUrl && (
                <a
                  href={meeting.joinUrl}
                  target="_blank"
                  rel="noreferrer"
                  aria-label={`Join the room of ${meeting.host} with ${meeting.client}`}
                >
                  Join
                </a>
              )}
            </li>
          )
        })}
      </ul>
    </section>
  )
}

/** Asks for a video room at once, whenever it would be tried again. */
function MakeRoom({ booking }: { booking: number }) {
  const make = useSettle(() => need(api.POST('/host-bookings/{id}/room', { params: { path: { id: booking } } })))
  return (
    <>
      <Way words={make.isPending ? 'Asking for the room …' : 'Make the room now'} onDo={() => make.mutate(undefined)} />
      {make.error && <Need>{make.error.message}</Need>}
    </>
  )
}

/** What needs the host, what happened since yesterday, how much is open. */
function Beside({ today }: { today: Schemas['Today'] }) {
  const go = useGo()
  return (
    <>
      {today.clashes.map((clash) => (
        <Clash key={clash.booking.id} clash={clash} zone={today.zone} />
      ))}
      {today.troubles.map((trouble) => (
        <Need key={trouble.title} title={trouble.title} className="mb-5">
          <p className="text-ink-2">
            {trouble.sentence}{' '}
            {trouble.path && (
              <button type="button" className="link" onClick={() => go(trouble.path ?? '/')}>
                {trouble.label}
              </button>
            )}
            {trouble.room && <MakeRoom booking={trouble.room} />}
          </p>
        </Need>
      ))}
      <h2 className="mb-1.5">Since yesterday</h2>
      {today.recent.length === 0 && <p className="text-note text-ink-3">Nothing was booked, moved or cancelled.</p>}
      <ul className="grid gap-1 text-note text-ink-2">
        {today.recent.map((step) => (
          <li key={step.at + step.client + step.kind}>
            {stepWords[step.kind]}: <span className="text-ink">{step.client}</span>, {step.type}
            {step.kind !== 'cancelled' && `, ${shortWhen(new Date(step.start), today.zone)}`}
            {step.note && <span className="text-ink-3"> “{step.note}”</span>}
          </li>
        ))}
      </ul>
      <h2 className="mt-6 mb-1.5">Open in the next 14 days</h2>
      <ul className="grid gap-1 text-note">
        {today.open.map((type) => (
          <li key={type.id} className={type.count === 0 ? 'text-need' : 'text-ink-2'}>
            <button
              type="button"
              className={type.count === 0 ? 'cursor-pointer hover:underline' : 'link'}
              onClick={() => go(`/types/${type.id}`)}
            >
              {type.name}
            </button>{' '}
            <span className="figures">{type.count}</span>
            {type.why && (
              <>
                {' '}
                · mostly blocked by {type.why.toLowerCase()} ·{' '}
                <button type="button" className="link" onClick={() => go(reasonsPath(type.id, today.date))}>
                  why?
                </button>
              </>
            )}
          </li>
        ))}
      </ul>
    </>
  )
}

function shortWhen(at: Date, zone: string): string {
  const { date, minute } = wallClock(at, zone)
  return `${shortDate(date)}, ${minuteText(minute)}`
}
