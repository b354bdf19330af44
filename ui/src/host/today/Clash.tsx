import { useState } from 'react'
import { api, need, type Schemas } from '../../api/client'
import { Sheet } from '../../kit/Ask'
import { Need } from '../../kit/kit'
import { say, told } from '../../say'
import { clock, shortDate, wallClock } from '../../time/time'
import { HandTo } from '../HandTo'
import { useSettle, Way, WithWord } from './settle'

/** A booking that no longer agrees with the host's calendars or with what its client answered, and the ways out. */
export function Clash({ clash, zone }: { clash: Schemas['Clash']; zone: string }) {
  const { booking, kind, asked } = clash
  const answered = kind === 'declined' || kind === 'wished'
  const start = new Date(booking.start)
  const [handing, setHanding] = useState(false)
  const title = `${booking.host ? `${booking.host}: ` : ''}${booking.client}, ${shortDate(wallClock(start, zone).date)} ${clock(start, zone)}`
  const params = { path: { id: booking.id } }
  const keep = useSettle(() => need(api.POST('/host-bookings/{id}/keep', { params })))
  const moveAlong = useSettle(() => need(api.POST('/host-bookings/{id}/move-along', { params })))
  const putBack = useSettle(() => need(api.POST('/host-bookings/{id}/put-back', { params })))
  const error = keep.error ?? moveAlong.error ?? putBack.error
  return (
    <Need title={title} className="mb-5">
      <p className="text-ink-2">
        {booking.type}. {told(clash.sentence)} {asked && say.today.clientWasAskedChoose}
      </p>
      <div className="mt-1.5 flex flex-wrap gap-x-4 gap-y-1">
        {kind === 'over' && <Way words={say.today.keepBoth} onDo={() => keep.mutate(undefined)} />}
        {answered && <Way words={say.today.keepMeeting} onDo={() => keep.mutate(undefined)} />}
        {kind === 'wished' && clash.to && (
          <Way
            words={say.today.moveMeetingTo(
              shortDate(wallClock(new Date(clash.to), zone).date),
              clock(new Date(clash.to), zone),
            )}
            onDo={() => moveAlong.mutate(undefined)}
          />
        )}
        {kind === 'moved' && clash.to && (
          <Way
            words={say.today.moveMeeting(clock(new Date(clash.to), zone))}
            onDo={() => moveAlong.mutate(undefined)}
          />
        )}
        {!answered && <Way words={say.today.handOver} onDo={() => setHanding(true)} />}
        {(kind === 'gone' || kind === 'moved') && (
          <Way words={say.today.putEventBack} onDo={() => putBack.mutate(undefined)} />
        )}
        {!asked && (
          <WithWord
            title={say.today.askChooseAgain(booking.client)}
            words={say.today.askAnotherTime}
            note={say.today.oldTimeStaysTheirs}
            send={(word) => need(api.POST('/host-bookings/{id}/ask', { params, body: { word } }))}
          />
        )}
        <WithWord
          title={say.today.cancelMeetingWith(booking.client)}
          words={say.today.cancelMeeting}
          note={say.today.theyToldMailGoes}
          // What one client answered is theirs alone; what speaks against the meeting concerns all.
          send={(word) =>
            need(
              answered
                ? api.POST('/host-bookings/{id}/cancel', { params, body: { word } })
                : api.POST('/host-bookings/{id}/cancel-for-all', { params, body: { word } }),
            )
          }
        />
      </div>
      {error && <p className="text-need">{error.message}</p>}
      <Sheet open={handing} title={say.today.handOverClient(booking.client)} onClose={() => setHanding(false)}>
        <HandTo booking={booking.id} onDone={() => setHanding(false)} />
      </Sheet>
    </Need>
  )
}
