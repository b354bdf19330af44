import { type Axis, axisFor } from '../ribbon/geometry'
import { Ground, Mark, Ruler, Ticks } from '../ribbon/Ribbon'
import { addDays, clock, instantAt, longDate, minuteText, offsetOf, placeOf, wallClock } from '../time/time'
import type { Look } from './open'
import { type Busy, overlaps } from './own'
import { useTexts } from './texts'
import { useWide } from './wide'

interface Props {
  look: Look
  date: string
  zone: string
  hostZone: string
  /** Whether the client is on a clock of their own, which then has its name beside it. */
  ownClock: boolean
  minutes: number
  /** Whether clients can wait for a time that is full. */
  waits: boolean
  chosen: Date | null
  /** The client's own busy times, laid over. */
  busy: Busy[] | null
  onChoose: (start: Date) => void
  onDate: (date: string) => void
}

const parts = [
  ['night', 6 * 60],
  ['morning', 12 * 60],
  ['afternoon', 17 * 60],
  ['evening', 24 * 60],
] as const

/** The chosen day: its ribbon, and its times by part of the day. */
export function DayTimes(props: Props) {
  const { look, date, zone, chosen } = props
  const t = useTexts()
  const wide = useWide()
  const starts = look.byDate.get(date) ?? []
  if (starts.length === 0)
    return (
      <>
        <NothingOpen {...props} />
        <FullTimes {...props} />
      </>
    )
  return (
    <>
      {wide && <DayOverview {...props} starts={starts} />}
      <div className="mt-5 flex flex-wrap gap-x-8 gap-y-5">
        {parts.map(([part, until], i) => {
          const name = t[part]
          const from = parts[i - 1]?.[1] ?? 0
          const inside = starts.filter((s) => {
            const { minute } = wallClock(s, zone)
            return minute >= from && minute < until
          })
          return (
            inside.length > 0 && (
              <section
                key={part}
                aria-label={name}
                className={`max-sm:basis-full ${inside.length > 6 ? 'min-w-64 max-w-112 flex-[2]' : 'min-w-36 max-w-112 flex-1'}`}
              >
                <h3 className="border-b border-rule-strong pb-1 font-text text-note font-semibold text-ink-2">
                  {name}
                </h3>
                <div className={`grid gap-x-5 ${inside.length > 6 ? 'grid-cols-2' : 'max-sm:grid-cols-2'}`}>
                  {inside.map((start) => (
                    <Time
                      key={start.getTime()}
                      {...props}
                      start={start}
                      chosen={start.getTime() === chosen?.getTime()}
                      over={props.busy !== null && overlaps(props.busy, start, props.minutes)}
                    />
                  ))}
                </div>
              </section>
            )
          )
        })}
      </div>
      <FullTimes {...props} />
    </>
  )
}

/** The day's times that are full, where one can wait for them. */
function FullTimes({ look, date, zone, waits, chosen, onChoose }: Props) {
  const t = useTexts()
  const full = (look.open.full ?? []).filter(({ start }) => wallClock(new Date(start), zone).date === date)
  if (!waits || full.length === 0) return null
  return (
    <section aria-label={t.fullTimes} className="mt-5 max-w-112">
      <h3 className="border-b border-rule-strong pb-1 font-text text-note font-semibold text-ink-2">{t.fullTimes}</h3>
      {full.map(({ start, waiting }) => {
        const at = new Date(start)
        const pressed = at.getTime() === chosen?.getTime()
        return (
          <button
            key={start}
            type="button"
            aria-pressed={pressed}
            onClick={() => onChoose(at)}
            className={`flex w-full items-baseline gap-3 border-b px-0.5 py-1.5 text-left sm:py-1 ${
              pressed ? 'rounded-(--radius) border-act bg-act px-2! text-on-act' : 'border-rule hover:bg-act-soft'
            }`}
          >
            <span className="figures text-[16.5px]">{clock(at, zone)}</span>
            <span className={`text-note ${pressed ? '' : 'text-ink-2'}`}>{t.full(waiting)}</span>
            <span className={`ml-auto text-note ${pressed ? '' : 'text-act'}`}>{t.joinList}</span>
          </button>
        )
      })}
    </section>
  )
}

/** One time to press, with the host's clock in small where it differs. */
function Time(props: {
  start: Date
  chosen: boolean
  /** It lies over a busy time of the client's own. */
  over: boolean
  zone: string
  hostZone: string
  look: Look
  onChoose: (start: Date) => void
}) {
  const { start, chosen, over, zone, hostZone } = props
  const t = useTexts()
  const mine = clock(start, zone)
  const theirs = clock(start, hostZone)
  // In an autumn night two instants show the same clock, whether it is turned back by an hour or by half of one; then the offset
  // tells them apart.
  const twice = props.look.open.starts.some((s) => {
    const other = new Date(s)
    const apart = Math.abs(other.getTime() - start.getTime())
    return apart > 0 && apart <= 3 * 3_600_000 && clock(other, zone) === mine
  })
  const offset = twice ? offsetOf(start, zone) : ''
  const left = props.look.open.left?.[start.toISOString().replace('.000', '')]
  return (
    <button
      type="button"
      aria-pressed={chosen}
      aria-label={`${mine}${offset && ` ${offset}`}${theirs === mine ? '' : `, ${t.inPlace(theirs, placeOf(hostZone))}`}${left === undefined ? '' : `, ${t.seatsLeft(left)}`}${over ? `, ${t.youAreBusy}` : ''}`}
      onClick={() => props.onChoose(start)}
      className={`figures flex items-baseline justify-between gap-3 border-b px-0.5 py-1.5 text-left sm:py-1 ${
        chosen ? 'rounded-(--radius) border-act bg-act px-2! text-on-act' : 'border-rule hover:bg-act-soft'
      }`}
    >
      <span className="text-[16.5px]">
        {mine} {offset && <small className="text-small">{offset}</small>}
        {over && <span className="mark-busy ml-2 inline-block! static! h-2.5 w-7 align-baseline" />}
        {left !== undefined && (
          <small className={`ml-2 text-small ${chosen ? '' : 'text-ink-2'}`}>{t.seatsLeft(left)}</small>
        )}
      </span>
      {theirs !== mine && <span className={`text-small ${chosen ? '' : 'text-ink-3'}`}>{theirs}</span>}
    </button>
  )
}

const leastAxis: Axis = { from: 8 * 60, to: 19 * 60 }

/** The day as a ribbon, with the client's ruler above and the host's below. */
function DayOverview(props: Props & { starts: Date[] }) {
  const { starts, date, zone, hostZone, ownClock, minutes, chosen, busy } = props
  const t = useTexts()
  const ticks = [...new Set(starts.map((s) => wallClock(s, zone).minute))]
  const spans = ticks.map((from) => ({ from, to: Math.min(1440, from + minutes) }))
  const axis = axisFor(spans, leastAxis)
  const chosenHere = chosen && wallClock(chosen, zone).date === date ? wallClock(chosen, zone).minute : null
  // Minute by minute: the two clocks may be changed on the same day at different times.
  const onHostClock = (minute: number) => clock(instantAt(date, minute, zone), hostZone)
  const differ = starts.some((s) => clock(s, hostZone) !== clock(s, zone))
  return (
    <div className="mt-2 grid grid-cols-[1fr_auto] gap-x-3">
      <Ruler axis={axis} />
      <span className="text-small text-ink-3">{ownClock && `${placeOf(zone)}, ${t.you}`}</span>
      <div>
        <Ground
          axis={axis}
          label={t.dayIsOpen(
            longDate(date),
            minuteText(axis.from),
            minuteText(axis.to),
            ticks.map(minuteText).join(', '),
          )}
        >
          {spans.map((s) => (
            <Mark key={s.from} kind="open" stretch={s} axis={axis} />
          ))}
          {ownOn(date, zone, busy).map((s) => (
            <Mark key={`${s.from} ${s.to}`} kind="busy" stretch={s} axis={axis} title={t.youAreBusy} />
          ))}
          <Ticks minutes={ticks} axis={axis} />
          {chosenHere !== null && (
            <div className="contents text-act">
              <Chosen from={chosenHere} minutes={minutes} axis={axis} />
            </div>
          )}
        </Ground>
      </div>
      <span />
      {differ && (
        <>
          <Ruler axis={axis} shown={(minute) => onHostClock(minute).replace(':00', '')} />
          <span className="text-small text-ink-3">
            {placeOf(hostZone)}, {t.host}
          </span>
        </>
      )}
    </div>
  )
}

function Chosen({ from, minutes, axis }: { from: number; minutes: number; axis: Axis }) {
  return <Mark kind="chosen" stretch={{ from, to: Math.min(1440, from + minutes) }} axis={axis} />
}

/** The client's own busy times on a day, as minutes of its clock. */
function ownOn(date: string, zone: string, busy: Busy[] | null) {
  const minuteOn = (at: number) => {
    const there = wallClock(new Date(at), zone)
    if (there.date < date) return 0
    return there.date > date ? 1440 : there.minute
  }
  return (busy ?? []).map((b) => ({ from: minuteOn(b.from), to: minuteOn(b.to) })).filter((s) => s.from < s.to)
}

/** A day without open times says when the next one is. */
function NothingOpen({ look, date, zone, onDate }: Props) {
  const t = useTexts()
  const dates = [...look.byDate.keys()].sort()
  const beyond = look.open.next ? wallClock(new Date(look.open.next), zone).date : undefined
  const next = dates.find((d) => d > date) ?? beyond
  const earlier = dates.findLast((d) => d < date)
  // What comes after the weeks shown is known only if nothing can be booked there.
  const end = addDays(look.first, 7 * look.weeks)
  const whole = look.open.until !== undefined && wallClock(new Date(look.open.until), zone).date <= end
  return (
    <p className="mt-3 text-ink-2">
      {t.nothingOnThisDay}{' '}
      {next && (
        <button type="button" className="link" onClick={() => onDate(next)}>
          {t.nextAreOn(longDate(next))}
        </button>
      )}
      {!next && earlier && (
        <button type="button" className="link" onClick={() => onDate(earlier)}>
          {whole ? t.lastAreOn(longDate(earlier)) : t.lastShownOn(longDate(earlier))}
        </button>
      )}
      {!next && !earlier && t.noneAhead}
    </p>
  )
}
