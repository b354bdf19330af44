import { api, need, type Schemas } from '../../api/client'
import { useGo } from '../../edit/unsaved'
import { Need } from '../../kit/kit'
import { say } from '../../say'
import { clock, shortDate, wallClock } from '../../time/time'
import { useSettle, Way, WithWord } from './settle'

/** A session to which too few have signed up: it takes place, or is called off. */
export function Doubt({ doubt: d, zone }: { doubt: Schemas['Doubt']; zone: string }) {
  const go = useGo()
  const start = new Date(d.start)
  const { date } = wallClock(start, zone)
  const params = { path: { id: d.id } }
  const keep = useSettle(() => need(api.POST('/host-bookings/{id}/takes-place', { params })))
  return (
    <Need title={`${d.host ? `${d.host}: ` : ''}${d.type}, ${shortDate(date)} ${clock(start, zone)}`} className="mb-5">
      <p className="text-ink-2">{say.today.fewSignedUp(d.booked, d.least, d.after ?? 0)}</p>
      <div className="mt-1.5 flex flex-wrap gap-x-4 gap-y-1">
        <Way words={say.today.takesPlace} onDo={() => keep.mutate(undefined)} />
        <WithWord
          title={say.today.callOffSession(d.type)}
          words={say.today.callOff}
          note={say.board.areTold(d.comers)}
          send={(word) =>
            need(api.POST('/host-bookings/{id}/cancel-for-all', { params, body: { word, rest: (d.after ?? 0) > 0 } }))
          }
        />
        <Way words={say.today.seeSession} onDo={() => go(`/board?from=${date}&booking=${d.id}`)} />
      </div>
      {keep.error && <p className="text-need">{keep.error.message}</p>}
    </Need>
  )
}
