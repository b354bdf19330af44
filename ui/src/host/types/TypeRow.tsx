import { useMutation, useQueryClient } from '@tanstack/react-query'
import { type RefObject, useState } from 'react'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { hasChanged } from '../../api/keys'
import { useGo } from '../../edit/unsaved'
import { Ask } from '../../kit/Ask'
import { Need } from '../../kit/kit'
import { type Entry, Menu } from '../../kit/Menu'
import { decimal, say, told } from '../../say'
import { addDays, clock, shortDate, wallClock } from '../../time/time'
import { Faces } from '../Initials'
import { type inTurn, useTypeFacts } from '../queries'
import { Fortnight } from './Fortnight'
import { reasonsPath } from './Reasons'

type Type = Schemas['MeetingType']

/** The columns of the list, the same for its ruler. */
export const columns = 'lg:grid lg:grid-cols-[minmax(0,1fr)_7.5rem_22rem_8rem_6.5rem_2.5rem] lg:gap-x-4'

const listed = { listed: '', link: say.types.byLinkOnly, off: say.types.isSwitchedOff }

/** A meeting type in the list: what it is, who hosts it, and what of it can really be booked in the next fortnight. What isn't known
 *  yet has its place kept, so that nothing moves away from under a finger when it comes. */
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
    say.types.minutesShort(lengths(type.rules)),
    listed[type.listing],
    type.who === 'nobody' && say.types.handOnly,
    type.who === 'organisation' && say.types.peopleWorkspace,
    facts && facts.ratings.count > 0 && say.messages.ratings(decimal(facts.ratings.average), facts.ratings.count),
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
      <div className={facts ? '' : 'min-h-8'}>{facts && <Faces people={facts.hosts} most={2} />}</div>
      {facts?.mend ? (
        <Nothing mend={facts.mend} next={facts.next} zone={zone} />
      ) : (
        <>
          <div className="min-h-8.5 max-lg:w-full">
            {facts && <Fortnight counts={facts.days} from={facts.from} firstWeekday={firstWeekday} />}
          </div>
          <div className={`figures ${facts ? '' : 'min-h-10.5'}`}>
            {facts?.next && (
              <p>
                <span className="sr-only">{say.types.nextOpen} </span>
                {nextWords(facts.next, facts.from, zone)}
              </p>
            )}
            {facts && <p className="text-note text-ink-2">{say.types.openStartsCount(facts.open)}</p>}
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
      <b className="font-semibold text-need">{say.types.nothingOpen14Days}</b> {told(mend.sentence)}{' '}
      {next && say.types.next(shortDate(wallClock(new Date(next), zone).date))}
      <button type="button" className="link font-semibold" onClick={() => go(mend.path)}>
        {told(mend.label)}
      </button>
    </div>
  )
}

function toCome({ coming, requested }: Schemas['TypeFacts']): string {
  return [coming > 0 && say.types.coming(coming), requested > 0 && say.types.asked(requested)]
    .filter(Boolean)
    .join(', ')
}

/** "Today 12:30", "Mon 10:45" within a week, "Thu 17 Dec" later. */
function nextWords(next: string, today: string, zone: string): string {
  const at = new Date(next)
  const { date } = wallClock(at, zone)
  if (date === today) return say.types.today(clock(at, zone))
  const day = shortDate(date)
  return date < addDays(today, 7) ? `${day.split(' ')[0]} ${clock(at, zone)}` : day
}

function lengths({ duration, others, upTo }: Schemas['TypeRules']): string {
  if (upTo) return say.types.lengthRange(duration, upTo)
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
    { words: say.types.times, onDo: () => go(`/types/${type.id}`) },
    ...(type.rules.sessions ? [{ words: say.types.sessions, onDo: () => go(`/types/${type.id}/sessions`) }] : []),
    { words: say.types.bookingPage, onDo: () => go(`/types/${type.id}/booking-page`) },
    { words: say.types.hosts, onDo: () => go(`/types/${type.id}/routing`) },
    { words: say.types.share, onDo: () => go(`/types/${type.id}/share`) },
    { words: say.types.viewClient, href: type.path },
  ]
  if (date) entries.push({ words: say.types.whyOpenNot, onDo: () => go(reasonsPath(type.id, date)) })
  if (type.edits)
    entries.push(
      { words: say.types.copy, onDo: () => duplicate.mutate(undefined) },
      { words: say.types.removeMenu, onDo: () => setRemoving(true) },
    )
  return (
    <>
      <Menu label={say.types.moreOf(type.name)} entries={entries} />
      {error && <Need>{error.message}</Need>}
      <Ask
        open={removing}
        title={say.types.removeType(type.name)}
        yes={say.types.remove}
        no={say.types.keep}
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
        {say.types.pageCantBookedAny}
      </Ask>
    </>
  )
}

/** A change after which the types are asked for anew. */
export function useTypesChange<Input>(change: (input: Input) => Promise<unknown>, scope?: ReturnType<typeof inTurn>) {
  const client = useQueryClient()
  return useMutation<unknown, Refusal, Input>({
    ...scope,
    mutationFn: change,
    onSuccess: () => hasChanged(client, 'type'),
  })
}
