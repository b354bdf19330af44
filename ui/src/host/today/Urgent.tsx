import { api, need, type Schemas } from '../../api/client'
import { useGo } from '../../edit/unsaved'
import { Need } from '../../kit/kit'
import { say, told } from '../../say'
import { Clash } from './Clash'
import { Doubt } from './Doubt'
import { Request } from './Request'
import { useSettle, Way } from './settle'

/** What can't wait: bookings that no longer agree with a calendar, sessions to which few come, what clients ask for, what doesn't work. */
export function Urgent({ today }: { today: Schemas['Today'] }) {
  const { clashes, doubts, requests, troubles } = today
  const toDecide = clashes.length + doubts.length + requests.length
  if (toDecide + troubles.length === 0) return null
  return (
    <section aria-labelledby="urgent-head" className="mb-5">
      <h2 id="urgent-head" className="mb-1.5">
        {toDecide > 0 ? say.today.decide : say.today.mend}
      </h2>
      {clashes.map((clash) => (
        <Clash key={clash.booking.id} clash={clash} zone={today.zone} />
      ))}
      {doubts.map((doubt) => (
        <Doubt key={doubt.id} doubt={doubt} zone={today.zone} />
      ))}
      {requests.map((request) => (
        <Request key={request.id} request={request} zone={today.zone} />
      ))}
      {troubles.map((trouble) => (
        <Trouble key={trouble.title.sentence} trouble={trouble} />
      ))}
    </section>
  )
}

function Trouble({ trouble }: { trouble: Schemas['Trouble'] }) {
  const go = useGo()
  return (
    <Need title={told(trouble.title)} className="mb-4">
      <p className="text-ink-2">
        {told(trouble.sentence)}{' '}
        {trouble.path && (
          <button type="button" className="link" onClick={() => go(trouble.path ?? '/')}>
            {told(trouble.label)}
          </button>
        )}
        {trouble.room && <MakeRoom booking={trouble.room} />}
      </p>
    </Need>
  )
}

/** Asks for a video room at once, whenever it would be tried again. */
function MakeRoom({ booking }: { booking: number }) {
  const make = useSettle(() => need(api.POST('/host-bookings/{id}/room', { params: { path: { id: booking } } })))
  return (
    <>
      <Way words={make.isPending ? say.today.askingRoom : say.today.makeRoomNow} onDo={() => make.mutate(undefined)} />
      {make.error && <Need>{make.error.message}</Need>}
    </>
  )
}
