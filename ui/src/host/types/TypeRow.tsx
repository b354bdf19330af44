import { useMutation, useQueryClient } from '@tanstack/react-query'
import { type RefObject, useState } from 'react'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { hasChanged } from '../../api/keys'
import { useGo } from '../../edit/unsaved'
import { Ask } from '../../kit/Ask'
import { Need } from '../../kit/kit'
import { type Entry, Menu } from '../../kit/Menu'
import { addDays, clock, shortDate, wallClock } from '../../time/time'
import { Faces } from '../Initials'
import { useTypeFacts } from '../queries'
import { Fortnight } from './Fortnight'
import { reasonsPath } from './Reasons'

type Type = Schemas['MeetingType']

/** The columns of the list, the same for its ruler. */
export const columns = 'lg:grid lg:grid-cols-[minmax(0,1fr)_7.5rem_22rem_8rem_6.5rem_2.5rem] lg:gap-x-4'

const listed = { listed: '', link: 'by link only', off: 'switched off' }

/** A meeting type in the list: what it is, who hosts it, and what of it can really be booked in the next fortnight. */
export function TypeRow(props: {
  type: Type
  zone: string
  firstWeekday: number
  list: RefObject<HTMLElement | null>
}) {
  const { type, zone, firstWeekday } = props
  const go = useGo()
  const facts = useTypeFacts(type.id).data
  const said = [
    `${lengths(type.rules)} min`,
    listed[type.listing],
    type.who === 'nobody' && 'by hand only',
    type.who === 'organisation' && 'for people of the workspace',
  ]
  return (
    <div className={`relative flex flex-wrap items-center gap-x-4 gap-y-1.5 border-t border-rule py-2 ${columns}`}>
      <div className="min-w-0 max-lg:w-full max-lg:pr-10">
        <button
          type="button"
          className="link max-w-full text-left text-[16px] font-semibold wrap-anywhere"
          onClick={() => go(`/types/${type.id}`)}
        >
          {type.name}
        </button>
        <p className="text-note text-ink-2">{said.filter(Boolean).join(' · ')}</p>
      </div>
      <div>{facts && <Faces people={facts.hosts} most={2} />}</div>
      {facts?.mend ? (
        <Nothing mend={facts.mend} next={facts.next} zone={zone} />
      ) : (
        <>
          <div className="max-lg:w-full">
            {facts && <Fortnight counts={facts.days} from={facts.from} firstWeekday={firstWeekday} />}
          </div>
          <div className="figures">
            {facts?.next && (
              <p>
                <span className="sr-only">Next open: </span>
                {nextWords(facts.next, facts.from, zone)}
              </p>
            )}
            {facts && (
              <p className="text-note text-ink-2">
                {facts.open} open {facts.open === 1 ? 'start' : 'starts'}
              </p>
            )}
          </div>
        </>
      )}
      <p className="figures text-note text-ink-2">{facts && toCome(facts)}</p>
      <div className="max-lg:absolute max-lg:top-2 max-lg:right-0">
        <More {...props} date={facts?.from} />
      </div>
    </div>
  )
}

/** That nobody can book it, why, and where that is changed. */
function Nothing({ mend, next, zone }: { mend: Schemas['Mend']; next: string | undefined; zone: string }) {
  const go = useGo()
  return (
    <div className="border-l-3 border-need pl-2.5 text-note lg:col-span-2">
      <b className="font-semibold text-need">Nothing open in 14 days.</b> {mend.sentence}{' '}
      {next && `Next: ${shortDate(wallClock(new Date(next), zone).date)}. `}
      <button type="button" className="link font-semibold" onClick={() => go(mend.path)}>
        {mend.label}
      </button>
    </div>
  )
}

function toCome({ coming, requested }: Schemas['TypeFacts']): string {
  return [coming > 0 && `${coming} coming`, requested > 0 && `${requested} asked`].filter(Boolean).join(', ')
}

/** "Today 12:30", "Mon 10:45" within a week, "Thu 17 Dec" later. */
function nextWords(next: string, today: string, zone: string): string {
  const at = new Date(next)
  const { date } = wallClock(at, zone)
  if (date === today) return `Today ${clock(at, zone)}`
  const day = shortDate(date)
  return date < addDays(today, 7) ? `${day.split(' ')[0]} ${clock(at, zone)}` : day
}

function lengths({ duration, others, upTo }: Schemas['TypeRules']): string {
  if (upTo) return `${duration} to ${upTo}`
  return [duration, ...(others ?? [])].join(', ')
}

/** The ways on from a type. */
function More({ type, date, list }: { type: Type; date: string | undefined; list: RefObject<HTMLElement | null> }) {
  const go = useGo()
  const [removing, setRemoving] = useState(false)
  const params = { path: { id: type.id } }
  const duplicate = useTypesChange(() => need(api.POST('/types/{id}/duplicate', { params })))
  const remove = useTypesChange(() => need(api.DELETE('/types/{id}', { params })))
  const error = duplicate.error ?? remove.error
  const entries: Entry[] = [
    { words: 'Times', onDo: () => go(`/types/${type.id}`) },
    { words: 'Booking page', onDo: () => go(`/types/${type.id}/offer`) },
    { words: 'Hosts', onDo: () => go(`/types/${type.id}/routing`) },
    { words: 'Share', onDo: () => go(`/types/${type.id}/share`) },
    { words: 'View as client', href: type.path },
  ]
  if (date) entries.push({ words: 'Why open or not', onDo: () => go(reasonsPath(type.id, date)) })
  if (type.edits)
    entries.push(
      { words: 'Copy', onDo: () => duplicate.mutate(undefined) },
      { words: 'Remove …', onDo: () => setRemoving(true) },
    )
  return (
    <>
      <Menu label={`More of ${type.name}`} entries={entries} />
      {error && <Need>{error.message}</Need>}
      <Ask
        open={removing}
        title={`Remove ${type.name}?`}
        yes="Remove"
        no="Keep"
        onYes={() => {
          setRemoving(false)
          remove.mutate(undefined)
        }}
        onNo={() => setRemoving(false)}
        onClosed={(event) => {
          // The row goes, and with it where the focus was.
          if (!remove.isPending) return
          event.preventDefault()
          list.current?.focus()
        }}
      >
        Its page can’t be booked any more. What was booked stays in the history, and you can undo this.
      </Ask>
    </>
  )
}

/** A change after which the types are asked for anew. */
export function useTypesChange<Input>(change: (input: Input) => Promise<unknown>) {
  const client = useQueryClient()
  return useMutation<unknown, Refusal, Input>({
    mutationFn: change,
    onSuccess: () => hasChanged(client, 'type'),
  })
}
