import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, need, type Refusal, type Schemas } from '../api/client'
import { hasChanged, keys } from '../api/keys'
import { Button, Need } from '../kit/kit'
import { say, toldAll } from '../say'

/** Whom a booking could be handed over to, those who are open first, each with what speaks against it. */
export function HandTo({ booking, onDone }: { booking: number; onDone: () => void }) {
  const params = { path: { id: booking } }
  const takers = useQuery<Schemas['Taker'][], Refusal>({
    queryKey: keys.onBoard('takers', booking),
    queryFn: () => need(api.GET('/host-bookings/{id}/takers', { params })),
    staleTime: 0,
  })
  const [asked, setAsked] = useState<number | null>(null)
  const client = useQueryClient()
  const hand = useMutation<unknown, Refusal, { person: number; outside: boolean }>({
    mutationFn: (body) => need(api.POST('/host-bookings/{id}/hand', { params, body })),
    onSuccess: () => {
      void hasChanged(client, 'handedOn')
      onDone()
    },
  })
  if (takers.error) return <Need>{takers.error.message}</Need>
  const list = takers.data ?? []
  const chosen = list.find((t) => t.person === asked)
  return (
    <div>
      <ul aria-label={say.shell.colleagues}>
        {list.map((taker) => (
          <li key={taker.person} className="border-t border-rule py-1.5 text-note">
            <label className="flex items-baseline gap-2">
              <input
                type="radio"
                name="taker"
                checked={asked === taker.person}
                onChange={() => setAsked(taker.person)}
              />
              <span>
                <b className="font-semibold">{taker.name}</b>{' '}
                {taker.open ? say.shell.openThen : <span className="text-need">{toldAll(taker.why)}</span>}
                {!taker.hosts && <span className="text-ink-2"> {say.shell.doesntHostType}</span>}
              </span>
            </label>
          </li>
        ))}
      </ul>
      {list.length === 0 && takers.data && <p className="text-note text-ink-2">{say.shell.thereNoColleagueWho}</p>}
      {hand.error && <Need className="mt-2">{hand.error.message}</Need>}
      {chosen && (
        <p className="mt-3">
          <Button
            disabled={hand.isPending}
            onClick={() => hand.mutate({ person: chosen.person, outside: !chosen.open })}
          >
            {chosen.open ? say.shell.handOver(chosen.name) : say.shell.handOverAnyway(chosen.name)}
          </Button>
        </p>
      )}
    </div>
  )
}
