import { useQuery } from '@tanstack/react-query'
import { useEffect } from 'react'
import { useParams } from 'react-router'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { Button, Need } from '../../kit/kit'
import { say } from '../../say'
import { clockRange, longDate } from '../../time/time'
import { useMe } from '../queries'

/** Lines that are left empty, for those who come without a booking. */
const spare = 3

/** Who comes to a meeting that several share, on a sheet of paper to sign. */
export function SignSheet() {
  const id = Number(useParams().id)
  const zone = useMe().data?.person?.zone ?? 'UTC'
  const sheet = useQuery<Schemas['BookingSheet'], Refusal>({
    queryKey: keys.onBoard('sheet', id),
    queryFn: () => need(api.GET('/host-bookings/{id}', { params: { path: { id } } })),
  })
  const title = sheet.data ? `${sheet.data.type} · ${longDate(sheet.data.date)}` : undefined
  useEffect(() => {
    if (title) document.title = title
  }, [title])
  if (sheet.error) return <Need className="m-10">{sheet.error.message}</Need>
  if (!sheet.data) return null
  const b = sheet.data
  const names = b.participants
    .filter(({ state }) => ['booked', 'attended', 'no-show'].includes(state))
    .map(({ name }) => name)
    .sort((one, other) => one.localeCompare(other))
  const [from, to] = clockRange(new Date(b.start), new Date(b.end), zone)
  return (
    <main className="mx-auto max-w-3xl px-8 py-8">
      <h1 className="text-[26px]">{b.type}</h1>
      <p className="mt-1">
        {longDate(b.date)},{' '}
        <span className="figures">
          {from}–{to}
        </span>
        , {b.hosts.join(', ')}
      </p>
      <p className="mt-3 print:hidden">
        <Button onClick={() => window.print()}>{say.board.print}</Button>
      </p>
      <table className="mt-6 w-full border-collapse text-left">
        <thead>
          <tr className="border-b border-ink text-note text-ink-2">
            <th scope="col" className="w-1/2 py-1 font-normal">
              {say.board.nameColumn}
            </th>
            <th scope="col" className="py-1 font-normal">
              {say.board.signature}
            </th>
          </tr>
        </thead>
        <tbody>
          {[...names, ...Array<string>(spare).fill('')].map((name, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: two can have the same name, and they are never put into another order
            <tr key={i} className="h-12 border-b border-rule-strong align-bottom">
              <td className="pb-1">{name}</td>
              <td />
            </tr>
          ))}
        </tbody>
      </table>
    </main>
  )
}
