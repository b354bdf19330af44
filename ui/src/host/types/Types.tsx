import { Need } from '../../kit/kit'
import { useToday, useTypes } from '../queries'
import { View } from '../Shell'
import { useGo } from '../unsaved'

/** The meeting types that the host offers. */
export function Types() {
  const types = useTypes()
  const today = useToday()
  const go = useGo()
  const count = (id: number) => today.data?.open.find((type) => type.id === id)?.count
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
            className="grid items-baseline gap-x-5 border-t border-rule py-3 sm:grid-cols-[1fr_6rem_8rem_8rem]"
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
            <span className="figures text-note text-ink-2">{type.rules.duration} min</span>
            <span
              className={`figures text-note ${count(type.id) === 0 ? 'text-need' : 'text-ink-2'}`}
              title="In the next 14 days"
            >
              {count(type.id)} open starts
            </span>
            <a className="text-note" href={type.path} target="_blank" rel="noreferrer">
              The client’s page
            </a>
          </li>
        ))}
      </ul>
    </View>
  )
}
