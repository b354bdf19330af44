import { type KeyboardEvent, useEffect, useRef } from 'react'
import { addDays, dayAndMonth, longDate, wallClock, weekdayLetter, weekOf } from '../time/time'
import type { Look } from './open'
import { type Busy, overlaps } from './own'
import { type Texts, useTexts } from './texts'

interface Props {
  look: Look
  zone: string
  chosen: string | null
  /** How long the meeting is to last. */
  minutes: number
  /** The client's own busy times, laid over. */
  busy: Busy[] | null
  onChoose: (date: string) => void
}

/** The weeks ahead: each day a bar whose height says how many times are open. */
export function Skyline({ look, zone, chosen, minutes, busy, onChoose }: Props) {
  const t = useTexts()
  const most = Math.max(1, ...[...look.byDate.values()].map((starts) => starts.length))
  const ground = useRef<HTMLDivElement>(null)
  const focused = chosen ?? look.first
  const today = wallClock(new Date(look.open.now), zone).date
  const earliest = wallClock(new Date(look.open.earliest), zone).date

  // On a phone the weeks lie side by side: the chosen day's is brought into sight.
  useEffect(() => {
    if (ground.current && chosen) bringIntoSight(chosen, ground.current)
  }, [chosen])

  const step = (event: KeyboardEvent) => {
    const by = { ArrowRight: 1, ArrowLeft: -1, ArrowDown: 7, ArrowUp: -7 }[event.key]
    if (!by) return
    event.preventDefault()
    const to = addDays(focused, by)
    if (to < look.first || to >= addDays(look.first, 7 * look.weeks)) return
    onChoose(to)
    ground.current?.querySelector<HTMLElement>(`[data-date="${to}"]`)?.focus()
  }

  return (
    // biome-ignore lint/a11y/useSemanticElements: a group of buttons, not of fields
    <div
      ref={ground}
      role="group"
      aria-label={t.days}
      className="grid gap-x-6 gap-y-3 max-sm:snap-x max-sm:auto-cols-[88%] max-sm:grid-flow-col max-sm:gap-x-3 max-sm:overflow-x-auto max-sm:pb-1 sm:grid-cols-3 lg:grid-cols-5"
      onKeyDown={step}
    >
      {Array.from({ length: look.weeks }, (_, week) => {
        const first = addDays(look.first, 7 * week)
        return (
          <div key={first} data-week={week} className="snap-start">
            <p className="flex justify-between text-note text-ink-2">
              <span>{weekName(first, look.firstWeekday, zone, t)}</span>
              <span>
                {dayAndMonth(first)} – {dayAndMonth(addDays(first, 6))}
              </span>
            </p>
            <div className="grid grid-cols-7 pt-4">
              {Array.from({ length: 7 }, (_, day) => addDays(first, day)).map((date) => (
                <Bar
                  key={date}
                  date={date}
                  count={look.byDate.get(date)?.length ?? 0}
                  over={busy ? (look.byDate.get(date) ?? []).filter((s) => overlaps(busy, s, minutes)).length : 0}
                  most={most}
                  past={date < today}
                  early={date <= earliest}
                  chosen={date === chosen}
                  reachable={date === focused}
                  onChoose={onChoose}
                />
              ))}
            </div>
          </div>
        )
      })}
    </div>
  )
}

export function bringIntoSight(date: string, weeks: HTMLElement): void {
  const week = weeks.querySelector(`[data-date="${date}"]`)?.closest<HTMLElement>('[data-week]')
  if (week && weeks.scrollWidth > weeks.clientWidth) weeks.scrollTo({ left: week.offsetLeft - weeks.offsetLeft })
}

function weekName(first: string, firstWeekday: number, zone: string, t: Texts): string {
  const current = weekOf(wallClock(new Date(), zone).date, firstWeekday)
  if (first === current) return t.thisWeek
  return first === addDays(current, 7) ? t.nextWeek : ''
}

interface BarProps {
  date: string
  count: number
  /** How many of them lie over busy times of the client's own. */
  over: number
  most: number
  past: boolean
  /** No later than the earliest time that can be booked. */
  early: boolean
  chosen: boolean
  reachable: boolean
  onChoose: (date: string) => void
}

const tallest = 84

function Bar({ date, count, over, most, past, early, chosen, reachable, onChoose }: BarProps) {
  const t = useTexts()
  const tooSoon = count === 0 && !past && early
  const height = count === 0 ? 0 : Math.max(7, Math.round((count / most) * tallest))
  return (
    <button
      type="button"
      data-date={date}
      aria-pressed={chosen}
      aria-label={`${longDate(date)}, ${over > 0 ? `${t.youAreBusy}: ${over}, ` : ''}${count === 0 ? t.noOpenTimes : t.open(count)}`}
      tabIndex={reachable ? 0 : -1}
      disabled={past}
      onClick={() => onChoose(date)}
      className="group relative block rounded-(--radius) text-center disabled:opacity-100"
    >
      {chosen && count > 0 && (
        <span className="absolute -top-4 left-1/2 -translate-x-1/2 text-small font-semibold whitespace-nowrap text-act">
          {t.open(count)}
        </span>
      )}
      <span className="flex items-end border-b border-ink px-0.5" style={{ height: `${tallest}px` }}>
        {tooSoon ? (
          <span className="mark-soon h-12 w-full" />
        ) : (
          <span
            className={`drawn w-full ${chosen ? 'bg-act' : 'bg-bar group-hover:bg-act-soft'} ${count ? 'border-t-3 border-act' : ''}`}
            style={{ height: `${height}px` }}
          >
            {over > 0 && (
              <span className="mark-busy static! block w-full" style={{ height: `${(over / count) * 100}%` }} />
            )}
          </span>
        )}
      </span>
      <span
        className={`figures mx-0.5 mt-1 block rounded-(--radius) text-note ${chosen ? 'bg-ink font-semibold text-ground' : count ? 'text-ink' : 'text-ink-3'}`}
      >
        {Number(date.slice(8))}
      </span>
      <span className="block text-[11px] text-ink-3">{weekdayLetter(date)}</span>
    </button>
  )
}
