import { useMutation, useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { Sheet } from '../../kit/Ask'
import { Button, Need, TextField } from '../../kit/kit'
import { say, spoken, told } from '../../say'
import { clock, longDate, shortDate, wallClock } from '../../time/time'
import { useMe } from '../queries'

type RoutingView = Schemas['RoutingView']

/** Who was given how many, how far that is from their share, who is next; and each booking with its reason. */
export function Ledger({ type, view }: { type: number; view: RoutingView }) {
  const [correcting, setCorrecting] = useState<Schemas['LedgerRow'] | null>(null)
  const zone = useMe().data?.person?.zone ?? 'UTC'
  return (
    <section aria-labelledby="ledger-head" className="mt-8">
      <h2 id="ledger-head">
        {say.routing.ledger} {view.since && <small>{say.routing.ledgerSince(longDate(view.since))}</small>}
      </h2>
      <div className="overflow-x-auto">
        <table className="mt-2 w-full text-note max-sm:text-small max-sm:[&_th]:pr-1!">
          <thead className="text-left text-ink-2">
            <tr className="[&>th]:pr-3 [&>th]:font-normal">
              <th>{say.routing.next}</th>
              <th>{say.routing.host}</th>
              <th>{say.routing.weightHead}</th>
              <th>{say.routing.given}</th>
              <th>{say.routing.adjustment}</th>
              <th>{say.routing.aheadBehind}</th>
              <th>
                <span className="sr-only">{say.routing.correctIt}</span>
              </th>
            </tr>
          </thead>
          <tbody className="figures">
            {[...view.ledger]
              .sort((a, b) => a.next - b.next)
              .map((row) => (
                <tr key={row.person} className="border-t border-rule [&>td]:py-1.5 [&>td]:pr-3">
                  <td>{row.next}</td>
                  <td className="font-semibold">{row.name}</td>
                  <td>{row.weight}</td>
                  <td>{row.given}</td>
                  <td>{row.credit || ''}</td>
                  <td>{ahead(row.drift)}</td>
                  <td className="text-right">
                    {view.edits && (
                      <Button
                        kind="text"
                        aria-label={say.routing.correctCountOf(row.name)}
                        onClick={() => setCorrecting(row)}
                      >
                        {say.routing.correct}
                      </Button>
                    )}
                  </td>
                </tr>
              ))}
          </tbody>
        </table>
      </div>
      <p className="mt-1 text-note text-ink-2">{say.routing.adjustmentLetsNewcomersThose}</p>
      <ul aria-label={say.routing.givenBookings} className="mt-4">
        {view.given.slice(0, 12).map((given) => {
          const start = new Date(given.start)
          return (
            <li key={given.at + given.name + given.start} className="border-t border-rule py-1.5 text-note">
              <span className="figures text-ink-2">
                {shortDate(wallClock(start, zone).date)} {clock(start, zone)}
              </span>{' '}
              {given.client && `${given.client}: `}
              <b className={`font-semibold ${given.back ? 'line-through' : ''}`}>{given.name}</b>{' '}
              <span className="text-ink-2">
                {told(given.why)} {given.back && say.routing.givenBack}
              </span>
            </li>
          )
        })}
      </ul>
      {correcting && <Correct type={type} row={correcting} onDone={() => setCorrecting(null)} />}
    </section>
  )
}

function ahead(bookings: number): string {
  if (Math.abs(bookings) < 0.05) return '0'
  return `${bookings > 0 ? '+' : '−'}${Math.abs(bookings).toLocaleString(spoken, { minimumFractionDigits: 1, maximumFractionDigits: 1 })}`
}

function Correct({ type, row, onDone }: { type: number; row: Schemas['LedgerRow']; onDone: () => void }) {
  const [typed, setTyped] = useState({ credit: 1, remark: '' })
  const client = useQueryClient()
  const save = useMutation<RoutingView, Refusal, void>({
    mutationFn: () =>
      need(
        api.POST('/types/{id}/routing/corrections', {
          params: { path: { id: type } },
          body: { person: row.person, ...typed },
        }),
      ),
    onSuccess: (now) => {
      client.setQueryData(keys.routing(type), now)
      onDone()
    },
  })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    save.mutate()
  }
  return (
    <Sheet open title={say.routing.count(row.name)} onClose={onDone}>
      <form onSubmit={submit} noValidate className="grid gap-3">
        <TextField
          label={say.routing.bookingsAddMinusTake}
          type="number"
          value={typed.credit}
          onChange={(event) => setTyped({ ...typed, credit: Math.round(event.target.valueAsNumber) || 0 })}
        />
        <TextField
          label={say.routing.why}
          value={typed.remark}
          problem={save.error?.fields.remark}
          onChange={(event) => setTyped({ ...typed, remark: event.target.value })}
        />
        {save.error && !save.error.fields.remark && <Need>{save.error.message}</Need>}
        <p>
          <Button type="submit" disabled={save.isPending}>
            {say.routing.correctCount}
          </Button>
        </p>
      </form>
    </Sheet>
  )
}
