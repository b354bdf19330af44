import type { KeyboardEvent } from 'react'
import { useSearchParams } from 'react-router'
import type { Schemas } from '../../api/client'
import { Button } from '../../kit/kit'
import { say } from '../../say'
import { stateWords } from '../steps'
import { Attendance, useAttendance } from '../today/Attendance'

/** The states in which it can be said whether a client came. */
const came = ['booked', 'attended', 'no-show']

/** All who share a meeting; pressing a name opens their booking. Once it has begun, keys say who came. */
export function Participants({ of: b }: { of: Schemas['BookingSheet'] }) {
  const begun = new Date(b.start) <= new Date()
  return (
    <>
      <ul aria-label={say.board.whoComes}>
        {b.participants.map((one) => (
          <Participant key={one.booking} one={one} shown={one.booking === b.id} begun={begun} />
        ))}
      </ul>
      {begun && <p className="text-note text-ink-2">{say.board.attendanceKeys}</p>}
      <p className="flex flex-wrap gap-x-4 text-note">
        <a href={`/api/host-bookings/${b.id}/participants.csv`} download="participants.csv">
          {say.board.saveList}
        </a>
        <a href={`/board/sign/${b.id}`} target="_blank" rel="noreferrer">
          {say.board.sheetToSign}
        </a>
      </p>
    </>
  )
}

interface Props {
  one: Schemas['Participant']
  /** Whether it is whose booking stands there. */
  shown: boolean
  begun: boolean
}

function Participant({ one, shown, begun }: Props) {
  const [search, setSearch] = useSearchParams()
  const mark = useAttendance(one.booking)
  const marks = begun && came.includes(one.state)
  const open = () => {
    search.set('booking', String(one.booking))
    setSearch(search)
  }
  const press = (event: KeyboardEvent<HTMLLIElement>) => {
    const row = event.currentTarget
    const next = { ArrowDown: row.nextElementSibling, ArrowUp: row.previousElementSibling }[event.key]
    if (next) {
      event.preventDefault()
      next.querySelector('button')?.focus()
    } else if (marks && event.key === 'c' && one.state !== 'attended') mark.mutate('attended')
    else if (marks && event.key === 'd' && one.state !== 'no-show') mark.mutate('no-show')
  }
  return (
    <li onKeyDown={press}>
      {shown ? (
        <b className="font-semibold">{one.name}</b>
      ) : (
        <Button kind="text" onClick={open}>
          {one.name}
        </Button>
      )}{' '}
      {one.with && <span className="text-note text-ink-2">{say.board.comesWith(one.with)} </span>}
      {marks ? (
        <Attendance booking={{ id: one.booking, state: one.state }} />
      ) : (
        <span className="text-note text-ink-2">
          {one.confirmed && one.state === 'booked' ? say.today.saysTheyCome : stateWords[one.state]}
        </span>
      )}
    </li>
  )
}
