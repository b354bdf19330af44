import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { Button, Need } from '../../kit/kit'
import { say } from '../../say'

type Addresses = Schemas['FeedAddresses']

/** The private addresses that other calendar programs can subscribe to. */
export function FeedsOut() {
  const asked = useQuery({ queryKey: keys.feeds, queryFn: () => need(api.GET('/feeds')) })
  const renew = useFeedChange(() => need(api.POST('/feeds')))
  const end = useFeedChange(() => need(api.DELETE('/feeds')))
  const addresses = asked.data
  if (!addresses) return null
  const given = addresses.bookings !== ''
  const error = renew.error ?? end.error
  return (
    <section aria-labelledby="feeds-head" className="mt-8 max-w-3xl">
      <h2 id="feeds-head" className="border-b border-rule-strong pb-1">
        {say.calendars.otherCalendarPrograms}
      </h2>
      {given ? (
        <>
          <Address words={say.calendars.yourBookingsAllKnown} address={addresses.bookings} />
          <Address words={say.calendars.onlyWhenYouBusy} address={addresses.busy} />
          <p className="mt-2 text-note text-ink-2">{say.calendars.whoeverHasAddressCan}</p>
        </>
      ) : (
        <p className="mt-2 text-note text-ink-2">{say.calendars.privateLinksOtherCalendar}</p>
      )}
      <div className="mt-2 flex gap-4">
        <Button kind="text" onClick={() => renew.mutate()}>
          {given ? say.calendars.replaceLinks : say.calendars.createLinks}
        </Button>
        {given && (
          <Button kind="text" onClick={() => end.mutate()}>
            {say.calendars.endBoth}
          </Button>
        )}
      </div>
      {error && <Need>{error.message}</Need>}
    </section>
  )
}

function Address({ words, address }: { words: string; address: string }) {
  return (
    <label className="mt-3 block text-note text-ink-2">
      {words}
      <input
        readOnly
        className="figures block w-full border-0 border-b border-rule-strong bg-sheet px-0.5 py-1 text-ink"
        value={address}
        onFocus={(event) => event.target.select()}
      />
    </label>
  )
}

function useFeedChange(change: () => Promise<Addresses>) {
  const client = useQueryClient()
  return useMutation<Addresses, Refusal, void>({
    mutationFn: change,
    onSuccess: (addresses) => client.setQueryData(keys.feeds, addresses),
  })
}
