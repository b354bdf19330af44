import { useSearchParams } from 'react-router'
import type { Schemas } from '../../api/client'
import { Button } from '../../kit/kit'
import { say } from '../../say'
import { stateWords } from '../steps'
import { Attendance } from '../today/Attendance'

/** The states in which it can be said whether a client came. */
const came = ['booked', 'attended', 'no-show']

/** All who share a meeting; pressing a name opens their booking. */
export function Participants({ of: b }: { of: Schemas['BookingSheet'] }) {
  const [search, setSearch] = useSearchParams()
  const begun = new Date(b.start) <= new Date()
  const open = (booking: number) => {
    search.set('booking', String(booking))
    setSearch(search)
  }
  return (
    <>
      <ul aria-label={say.board.whoComes}>
        {b.participants.map((one) => (
          <li key={one.booking}>
            {one.booking === b.id ? (
              <b className="font-semibold">{one.name}</b>
            ) : (
              <Button kind="text" onClick={() => open(one.booking)}>
                {one.name}
              </Button>
            )}{' '}
            {one.with && <span className="text-note text-ink-2">{say.board.comesWith(one.with)} </span>}
            {begun && came.includes(one.state) ? (
              <Attendance booking={{ id: one.booking, state: one.state }} />
            ) : (
              <span className="text-note text-ink-2">
                {one.confirmed && one.state === 'booked' ? say.today.saysTheyCome : stateWords[one.state]}
              </span>
            )}
          </li>
        ))}
      </ul>
      <a className="text-note" href={`/api/host-bookings/${b.id}/participants.csv`} download="participants.csv">
        {say.board.saveList}
      </a>
    </>
  )
}
