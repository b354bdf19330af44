import type { Schemas } from '../../api/client'
import { Need } from '../../kit/kit'
import { useToday, useTypes } from '../queries'
import { View } from '../Shell'
import { useGo } from '../unsaved'
import { reasonsPath } from './Reasons'

/** The meeting types that the host offers. */
export function Types() {
  const types = useTypes(true)
  const today = useToday()
  const go = useGo()
  const openOf = (id: number) => today.data?.open.find((type) => type.id === id)
  return (
    <View
      title="Meeting types"
      actions={
        <button
          type="button"
          className="rounded-(--radius) bg-act px-4 py-2 text-base font-semibold text-on-act"
          onClick={() => go('/types/new')}
        >
          New meeting type
        </button>
      }
    >
      {types.error && <Need>{types.error.message}</Need>}
      {types.data?.length === 0 && (
        <p className="border-y border-rule py-4 text-ink-2">
          You offer no meeting type yet. Make one, and its page can be booked at once.
        </p>
      )}
      <ul className="max-w-4xl">
        {types.data?.map((type) => (
          <li
            key={type.id}
            className="grid items-baseline gap-x-5 border-t border-rule py-3 sm:grid-cols-[1fr_6rem_11rem_14rem]"
          >
            <div>
              <button
                type="button"
                className="link text-[16.5px] font-semibold"
                onClick={() => go(`/types/${type.id}`)}
              >
                {type.name}
              </button>
              <p className="line-clamp-1 text-note text-ink-2">{type.description}</p>
            </div>
            <span className="figures text-note text-ink-2">{lengths(type.rules)} min</span>
            <OpenStarts open={openOf(type.id)} date={today.data?.date ?? ''} />
            <span className="flex flex-wrap gap-x-4 text-note">
              <button
                type="button"
                className="link"
                aria-label={`Who hosts ${type.name}`}
                onClick={() => go(`/types/${type.id}/routing`)}
              >
                Who hosts it
              </button>
              <a href={type.path} target="_blank" rel="noreferrer">
                The client’s page
              </a>
            </span>
          </li>
        ))}
      </ul>
    </View>
  )
}

/** How many starts are open in the next 14 days; if none is, the rule that takes most, and the way to its reasons. */
function OpenStarts({ open, date }: { open: Schemas['OpenCount'] | undefined; date: string }) {
  const go = useGo()
  if (!open) return <span />
  if (!open.why)
    return (
      <span className="figures text-note text-ink-2" title="In the next 14 days">
        {open.count} open starts
      </span>
    )
  return (
    <span className="text-note text-need" title="In the next 14 days">
      Nothing open: “{open.why}” takes most.{' '}
      <button type="button" className="link" onClick={() => go(reasonsPath(open.id, date))}>
        Why?
      </button>
    </span>
  )
}

function lengths({ duration, others, upTo }: Schemas['TypeRules']): string {
  if (upTo) return `${duration} to ${upTo}`
  return [duration, ...(others ?? [])].join(', ')
}
