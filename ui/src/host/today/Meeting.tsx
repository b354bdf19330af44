import { Link } from 'react-router'
import type { Schemas } from '../../api/client'
import { say } from '../../say'
import { clock, offsetOf, placeOf, shortDate, wallClock, weekdayName } from '../../time/time'
import { Files } from '../Files'
import { answerInWords, stateWords } from '../steps'
import { Attendance } from './Attendance'
import { minutesUntil } from './when'

type Booking = Schemas['HostBooking']

interface Props {
  meeting: Booking
  now: Date
  zone: string
  /** The day under which it stands; one of another day says which. */
  today: string
  next?: boolean
}

/** One meeting: when on both clocks, who, the answers, the way in. The next one stands out. */
export function Meeting({ meeting, now, zone, today, next = false }: Props) {
  const [start, end] = [new Date(meeting.start), new Date(meeting.end)]
  const over = end <= now
  const ahead = minutesUntil(now, start)
  const standing = [
    meeting.filling && say.today.seatsTaken(meeting.filling.taken, meeting.filling.seats),
    start > now && meeting.confirmed && say.today.saysTheyCome,
    !over && ahead !== null && say.today.soon(ahead),
  ].filter(Boolean)
  const date = wallClock(start, zone).date
  const differs = offsetOf(start, zone) !== offsetOf(start, meeting.clientZone)
  const session = meeting.state === 'scheduled'
  const more = session ? 0 : (meeting.filling?.taken ?? 1) - 1
  const client = more > 0 ? `${meeting.client} +${more}` : meeting.client
  return (
    <article
      aria-label={`${clock(start, zone)} ${client}`}
      className={`-mx-6.5 grid grid-cols-[7.6rem_1fr_auto] px-6.5 max-sm:grid-cols-[5rem_minmax(0,1fr)] ${next ? 'bg-act-soft' : ''} ${over ? 'text-ink-2' : ''}`}
    >
      <div className="figures border-rule py-3 pr-3 max-sm:pb-0 sm:border-b">
        {date !== today && <p className="text-note text-ink-2">{shortDate(date)}</p>}
        <p className={`leading-tight ${next ? 'text-[26px]' : 'text-[19px]'}`}>{clock(start, zone)}</p>
        <p className="text-small text-ink-2">
          {differs ? clientClock(start, zone, meeting.clientZone) : say.today.to(clock(end, zone))}
        </p>
      </div>
      <div className="border-rule py-3 wrap-anywhere max-sm:pb-0 sm:border-b">
        <p>
          <b className={`font-semibold ${next ? 'text-[19px]' : 'text-[16.5px]'}`}>{client}</b>{' '}
          <span className="text-note text-ink-2">{standing.join(' · ')}</span>
        </p>
        {!session && (
          <p className="text-note text-ink-2">
            {meeting.type}
            {meeting.remark && ` · ${say.kit.quoted(meeting.remark)}`}
          </p>
        )}
        <Known meeting={meeting} />
        <Files files={meeting.files} />
        <p className="text-note">
          {meeting.mail && <a href={`mailto:${meeting.mail}`}>{meeting.mail}</a>}
          {meeting.guests.length > 0 && (
            <span className="text-ink-2">{say.today.withGuests(meeting.guests.join(', '))}</span>
          )}
        </p>
      </div>
      <div className="border-b border-rule py-3 text-note max-sm:col-span-2 max-sm:pt-1.5 max-sm:pl-20 sm:text-right">
        {start <= now ? <Came meeting={meeting} date={date} /> : <WayIn meeting={meeting} next={next} />}
        {start <= now && !over && <WayIn meeting={meeting} next={next} />}
      </div>
    </article>
  )
}

/** Who came: said here of one client, and of several where they stand one below the other. */
function Came({ meeting, date }: { meeting: Booking; date: string }) {
  if (!meeting.filling) return <Attendance booking={meeting} />
  return <Link to={`/board?from=${date}&booking=${meeting.id}`}>{say.today.whoCame}</Link>
}

/** What the client answered, and what the type says to its hosts. */
function Known({ meeting }: { meeting: Booking }) {
  const { said, notes, checklist = [] } = meeting
  return (
    <>
      {said.length > 0 && (
        <p className="text-note text-ink-2">{said.map((fact) => `${fact.word} ${answerInWords(fact)}`).join(' · ')}</p>
      )}
      {(notes || checklist.length > 0) && (
        <details className="text-note text-ink-2">
          <summary className="cursor-pointer text-act">
            {checklist.length > 0 ? say.today.checklistPoint(checklist.length) : say.today.notes}
          </summary>
          {notes && <p className="whitespace-pre-line">{notes}</p>}
          <ul className="list-disc pl-5">
            {checklist.map((point) => (
              <li key={point}>{point}</li>
            ))}
          </ul>
        </details>
      )}
    </>
  )
}

function WayIn({ meeting, next }: { meeting: Booking; next: boolean }) {
  if (!['booked', 'attended', 'no-show', 'scheduled'].includes(meeting.state))
    return <span className="text-need">{stateWords[meeting.state]}</span>
  if (meeting.where) return <span className="block max-w-56 whitespace-pre-line text-ink-2">{meeting.where}</span>
  if (!meeting.joinUrl) return <span className="text-ink-3">{say.today.roomBeingMade}</span>
  return (
    <a
      href={meeting.joinUrl}
      target="_blank"
      rel="noreferrer"
      className={next ? 'inline-block rounded-(--radius) bg-act px-4 py-2 font-semibold text-on-act!' : ''}
      aria-label={say.today.joinRoomWith(meeting.client)}
    >
      {say.today.joinRoom}
    </a>
  )
}

/** "9:00 Halifax", with the weekday if it is another day there. */
function clientClock(at: Date, zone: string, clientZone: string): string {
  const there = wallClock(at, clientZone).date
  const day = there === wallClock(at, zone).date ? '' : `${weekdayName(there).slice(0, 3)} `
  return `${day}${clock(at, clientZone)} ${placeOf(clientZone)}`
}
