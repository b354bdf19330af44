import { useMutation, useQueryClient } from '@tanstack/react-query'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { hasChanged } from '../../api/keys'
import { say } from '../../say'
import { stateWords } from '../steps'
import { Way } from './settle'

/** Says whether a client came, or that it is open again. */
export function useAttendance(booking: number) {
  const client = useQueryClient()
  return useMutation<unknown, Refusal, 'attended' | 'no-show' | 'unmarked'>({
    mutationFn: (event) =>
      need(api.POST('/host-bookings/{id}/attendance', { params: { path: { id: booking } }, body: { event } })),
    onSuccess: () => void hasChanged(client, 'attendance'),
  })
}

/** Whether the client came, once the meeting has begun. */
export function Attendance({ booking }: { booking: { id: number; state: Schemas['HostBooking']['state'] } }) {
  const mark = useAttendance(booking.id)
  if (booking.state === 'attended' || booking.state === 'no-show')
    return (
      <p>
        {stateWords[booking.state]} <Way words={say.today.change} onDo={() => mark.mutate('unmarked')} />
      </p>
    )
  if (booking.state !== 'booked') return null
  return (
    <p className="flex flex-wrap gap-x-3">
      <Way words={say.today.attended} onDo={() => mark.mutate('attended')} />
      <Way words={say.today.noShow} onDo={() => mark.mutate('no-show')} />
      {mark.error && <span className="text-need">{mark.error.message}</span>}
    </p>
  )
}
