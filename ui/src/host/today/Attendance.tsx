import { useMutation, useQueryClient } from '@tanstack/react-query'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { hasChanged } from '../../api/keys'
import { Way } from './settle'

/** Whether the client came, once the meeting has begun. */
export function Attendance({ booking }: { booking: { id: number; state: Schemas['HostBooking']['state'] } }) {
  const client = useQueryClient()
  const mark = useMutation<unknown, Refusal, 'came' | 'missed' | 'unmarked'>({
    mutationFn: (event) =>
      need(api.POST('/host-bookings/{id}/attendance', { params: { path: { id: booking.id } }, body: { event } })),
    onSuccess: () => void hasChanged(client, 'attendance'),
  })
  if (booking.state === 'came' || booking.state === 'missed')
    return (
      <p>
        {booking.state === 'came' ? 'came' : 'did not come'} <Way words="Change" onDo={() => mark.mutate('unmarked')} />
      </p>
    )
  if (booking.state !== 'booked') return null
  return (
    <p className="flex flex-wrap gap-x-3">
      <Way words="Came" onDo={() => mark.mutate('came')} />
      <Way words="Did not come" onDo={() => mark.mutate('missed')} />
      {mark.error && <span className="text-need">{mark.error.message}</span>}
    </p>
  )
}
