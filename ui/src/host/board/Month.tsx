import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { api, need } from '../../api/client'
import { keys } from '../../api/keys'
import { say } from '../../say'
import { addDays, longDate, weekOf } from '../../time/time'

interface Props {
  /** The days that the board shows, from the first to the last. */
  first: string
  last: string
  today: string
  firstWeekday: number
  everybody: boolean
  team: number
  onJump: (date: string) => void
}

/** Four weeks as a skyline of their bookings, to jump by. */
export function Month({ first, last, today, firstWeekday, everybody, team, onJump }: Props) {
  const from = weekOf(first, firstWeekday)
  const skyline = useQuery({
    queryKey: keys.board('skyline', from, everybody, team),
    queryFn: () => need(api.GET('/board/skyline', { params: { query: { from, everybody, team } } })),
    placeholderData: keepPreviousData,
  })
  const counts = skyline.data ?? []
  const most = Math.max(1, ...counts)
  return (
    // biome-ignore lint/a11y/useSemanticElements: a group of buttons, not of fields
    <div role="group" aria-label={say.board.fourWeeks} className="mb-3 grid grid-cols-4 gap-x-3 max-sm:grid-cols-2">
      {[0, 7, 14, 21].map((week) => (
        <div key={week} className="flex">
          {[0, 1, 2, 3, 4, 5, 6].map((day) => {
            const date = addDays(from, week + day)
            const count = counts[week + day] ?? 0
            const shown = date >= first && date <= last
            return (
              <button
                key={date}
                type="button"
                aria-label={`${longDate(date)}, ${say.board.bookings(count)}`}
                aria-current={shown ? 'date' : undefined}
                title={longDate(date)}
                className="group w-0 flex-1 text-center"
                onClick={() => onJump(date)}
              >
                <span className="flex h-8 items-end px-px">
                  <span
                    className={`w-full ${shown ? 'bg-act' : 'bg-bar group-hover:bg-act-soft'}`}
                    style={{ height: `${(count / most) * 100}%` }}
                  />
                </span>
                <span
                  className={`figures block border-t text-small ${shown ? 'border-act font-semibold text-ink' : 'border-rule-strong text-ink-2'} ${date === today ? 'underline underline-offset-2' : ''}`}
                >
                  {Number(date.slice(8))}
                </span>
              </button>
            )
          })}
        </div>
      ))}
    </div>
  )
}
