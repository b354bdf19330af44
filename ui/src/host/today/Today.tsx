import { Fragment, useState } from 'react'
import type { Schemas } from '../../api/client'
import { useGo } from '../../edit/unsaved'
import { Button } from '../../kit/kit'
import { DayRibbon } from '../../ribbon/DayRibbon'
import { axisFor } from '../../ribbon/geometry'
import { Ruler } from '../../ribbon/Ribbon'
import { say } from '../../say'
import { longDate, minuteText, placeOf, wallClock } from '../../time/time'
import { Away } from '../people/Away'
import { useMe, useToday, useTypes } from '../queries'
import { Unread, View } from '../Shell'
import { reasonsPath } from '../types/Reasons'
import { useDo } from '../useDo'
import { useKey } from '../useKey'
import { Beside } from './Beside'
import { Meeting } from './Meeting'
import { Urgent } from './Urgent'
import { shortWhen } from './when'

/** The day in the order of urgency: what has to be decided or mended, the next meeting, then the day and the week. */
export function Today() {
  const today = useToday()
  const me = useMe().data?.person
  const [yours, setYours] = useYours()
  if (!today.data) return <Unread error={today.error} />
  const coordinates = me?.role === 'owner' || me?.role === 'coordinator'
  const t = coordinates && yours ? onlyOwn(today.data) : today.data
  const now = new Date(t.now)
  const next = t.meetings.find((m) => new Date(m.end) > now)
  return (
    <View
      title={longDate(t.date)}
      note={say.today.otherClock(minuteText(t.minute), placeOf(t.zone))}
      actions={
        <>
          {coordinates && <Whose yours={yours} onChange={setYours} />}
          <OwnAway />
        </>
      }
      aside={<Beside today={t} />}
    >
      <GoOnSettingUp />
      {t.gathering && (
        <p role="status" className="mb-4 text-note text-ink-2">
          {say.today.lookingThroughYourColleagues}
        </p>
      )}
      <Urgent today={t} />
      {next && <Meeting meeting={next} now={now} today={t.date} zone={t.zone} next />}
      <TodayRibbon today={t} />
      <Meetings today={t} now={now} next={next} />
    </View>
  )
}

/** Whether a coordinator wants to see only what is their own; the browser remembers it. */
function useYours(): [boolean, (yours: boolean) => void] {
  const [yours, setYours] = useState(() => localStorage.getItem('today') === 'yours')
  return [
    yours,
    (now) => {
      localStorage.setItem('today', now ? 'yours' : 'everybody')
      setYours(now)
    },
  ]
}

function Whose({ yours, onChange }: { yours: boolean; onChange: (yours: boolean) => void }) {
  const look = 'link aria-pressed:text-ink aria-pressed:font-semibold aria-pressed:no-underline'
  return (
    // biome-ignore lint/a11y/useSemanticElements: a group of buttons, not of fields
    <span role="group" aria-label={say.today.whoseDay} className="flex gap-x-2">
      <button type="button" className={look} aria-pressed={yours} onClick={() => onChange(true)}>
        {say.today.yours}
      </button>
      ·
      <button type="button" className={look} aria-pressed={!yours} onClick={() => onChange(false)}>
        {say.today.everybodys}
      </button>
    </span>
  )
}

/** Without what is the colleagues'. */
function onlyOwn(today: Schemas['Today']): Schemas['Today'] {
  return {
    ...today,
    gathering: false,
    others: [],
    doubts: today.doubts.filter(({ host }) => !host),
    requests: today.requests.filter(({ host }) => !host),
    clashes: today.clashes.filter(({ booking }) => !booking.host),
  }
}

function TodayRibbon({ today }: { today: Schemas['Today'] }) {
  const { nextDay } = today
  const ribbon = nextDay ?? today.ribbon
  const type = useTypes().data?.[0]
  const go = useGo()
  const minute = nextDay ? undefined : Math.ceil(today.minute / 5) * 5
  const why = () => type && go(reasonsPath(type.id, ribbon.date, minute === undefined ? {} : { minute }))
  useKey('e', why)
  const axis = axisFor([...ribbon.open, ...ribbon.bookings], { from: 8 * 60, to: 18 * 60 })
  return (
    <div className="mt-3 mb-2 [&_.ribbon]:h-11.5">
      {nextDay && <p className="mb-2 text-ink-2">{say.today.youHaveNoHours(<b>{longDate(nextDay.date)}</b>)}</p>}
      <Ruler axis={axis} />
      <DayRibbon
        day={ribbon}
        axis={axis}
        name={nextDay ? longDate(nextDay.date) : say.today.today}
        {...(nextDay ? {} : { now: today.minute })}
      />
      {type && (
        <p className="mt-1 text-right text-small">
          <button type="button" className="link" onClick={why} title={say.today.keyE}>
            {say.today.whyTimeOpenNot}
          </button>
        </p>
      )}
    </div>
  )
}

/** What is done if one is away oneself: today, or on other days. */
function OwnAway() {
  const [open, setOpen] = useDo('away')
  const me = useMe().data?.person
  if (!me || me.role === 'viewer') return null
  return (
    <>
      <Button kind="text" onClick={() => setOpen(true)}>
        {say.today.iAmAway}
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
      {say.today.settingUpNotFinished}{' '}
      <button type="button" className="link" onClick={() => go('/begin')}>
        {say.today.continueSettingUp}
      </button>
    </p>
  )
}

interface MeetingsProps {
  today: Schemas['Today']
  now: Date
  /** The one that stands above already. */
  next: Schemas['HostBooking'] | undefined
}

/** The rest of today's meetings, then those of the coming week by day. */
function Meetings({ today, now, next }: MeetingsProps) {
  const rest = today.meetings.filter((meeting) => meeting !== next)
  const byDate = Map.groupBy(rest, (m) => wallClock(new Date(m.start), today.zone).date)
  const ofToday = byDate.get(today.date) ?? []
  byDate.delete(today.date)
  const nextIsToday = next && wallClock(new Date(next.start), today.zone).date === today.date
  return (
    <>
      {ofToday.length === 0 && !today.nextDay && (
        <p className="border-b border-rule py-4 text-ink-2">
          {nextIsToday ? say.today.noOtherMeetingsToday : say.today.noMeetingsToday}
          {today.meetings.length === 0 && say.today.sendSomebodyLinkMeeting}
        </p>
      )}
      {ofToday.map((meeting) => (
        <Meeting key={meeting.id} meeting={meeting} now={now} today={today.date} zone={today.zone} />
      ))}
      <Others today={today} />
      {[...byDate].map(([date, meetings]) => (
        <Fragment key={date}>
          <h2 className="mt-6 mb-1">{longDate(date)}</h2>
          {meetings.map((meeting) => (
            <Meeting key={meeting.id} meeting={meeting} now={now} today={date} zone={today.zone} />
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
      <h2 id="others-head">{say.today.colleaguesTodayTomorrow}</h2>
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
                  aria-label={say.today.joinRoomOf(meeting.host ?? '', meeting.client)}
                >
                  {say.today.join}
                </a>
              )}
            </li>
          )
        })}
      </ul>
    </section>
  )
}
