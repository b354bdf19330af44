import { useState } from 'react'
import type { Schemas } from '../../api/client'
import { api, need } from '../../api/client'
import { Need } from '../../kit/kit'
import { clock } from '../../time/time'
import { useCalendarChange, useCalendarChoices, useMe } from '../queries'

type Calendar = Schemas['Calendar']
type Use = Schemas['CalendarUse']

const uses: [Use['use'], string][] = [
  ['blocks', 'blocks time'],
  ['shown', 'is shown, doesn’t block'],
  ['ignored', 'is ignored'],
]

/** One calendar: what it is used for, what it takes, and what is wrong with it. */
export function CalendarRow({ calendar }: { calendar: Calendar }) {
  const titled = useCalendarChoices().data?.openTitle
  const change = useCalendarChange((body: Use) =>
    need(api.PUT('/calendars/{id}', { params: { path: { id: calendar.id } }, body })),
  )
  // What was just chosen shows at once; the server's answer follows.
  const [wanted, setWanted] = useState<Use | null>(null)
  const { use, receives, tentative, allDay, mayOpen, details, pattern, tone } = wanted ?? calendar
  const set = (next: Partial<Use>) => {
    const all = { use, receives, tentative, allDay, mayOpen, details, pattern, tone, ...next }
    setWanted(all)
    change.mutate(all, { onSettled: () => setWanted(null) })
  }
  return (
    <div className="border-b border-rule py-3">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h3 className="font-text text-[16.5px] font-semibold">{calendar.name}</h3>
        <select
          aria-label={`What ${calendar.name} does`}
          className="field-sizing-content border-0 border-b border-ink bg-sheet px-1.5 py-0.5 text-note"
          value={use}
          onChange={(event) => set({ use: event.target.value as Use['use'] })}
        >
          {uses.map(([value, words]) => (
            <option key={value} value={value}>
              {words}
            </option>
          ))}
        </select>
        {calendar.kind === 'caldav' && !calendar.readOnly && (
          <Tick label="receives bookings" name={calendar.name} on={receives} onChange={(on) => set({ receives: on })} />
        )}
        {use === 'blocks' && (
          <>
            <Tick
              label="tentative events block"
              name={calendar.name}
              on={tentative}
              onChange={(on) => set({ tentative: on })}
            />
            <Tick
              label="all-day events block"
              name={calendar.name}
              on={allDay}
              onChange={(on) => set({ allDay: on })}
            />
          </>
        )}
      </div>
      {calendar.reading && !calendar.readAt ? (
        <FirstReading {...calendar.reading} />
      ) : (
        <p className="mt-1 text-note text-ink-2">{picture(calendar, use)}</p>
      )}
      {calendar.readOnly && (
        <p className={`text-note ${receives ? 'text-need' : 'text-ink-2'}`}>
          It can only be read there, so bookings can’t be written to it.
          {receives && ' Choose another calendar that receives bookings.'}
        </p>
      )}
      {Math.abs(calendar.skew) >= noticedSkew && (
        <p className="text-note text-need">
          The clock of its server is {Math.abs(calendar.skew)} minutes {calendar.skew > 0 ? 'ahead of' : 'behind'} ours.
          The calendar counts anyway; have the wrong clock corrected.
        </p>
      )}
      {use !== 'ignored' && (
        <p className="mt-1 flex flex-wrap items-center gap-x-1.5 gap-y-1 text-note text-ink-2">
          <span className="relative inline-block h-4 w-9">
            <span className={`mark mark-busy right-0 left-0 hatch-${pattern} tone-${tone}`} />
          </span>
          <Pick
            label={`Hatch of ${calendar.name}`}
            value={pattern}
            options={hatches}
            onChange={(pattern) => set({ pattern })}
          />
          hatch,
          <Pick label={`Tone of ${calendar.name}`} value={tone} options={tones} onChange={(tone) => set({ tone })} />
          tone; details are seen by
          <Pick
            label={`Who sees details of ${calendar.name}`}
            value={details}
            options={readers}
            onChange={(details) => set({ details })}
          />
          and never by clients
          {titled && (
            <Tick
              label={`“${titled}” opens time here`}
              name={calendar.name}
              on={mayOpen}
              onChange={(on) => set({ mayOpen: on })}
            />
          )}
        </p>
      )}
      {calendar.trouble && <Trouble calendar={calendar} />}
      {calendar.leftOut.map((problem) => (
        <p key={problem} className="text-note text-need">
          {problem} The rest of the calendar counts. Mend the event there, or remove it.
        </p>
      ))}
      {change.error && <Need>{change.error.message}</Need>}
    </div>
  )
}

const hatches: [Use['pattern'], string][] = [
  ['rising', 'rising'],
  ['falling', 'falling'],
  ['wide', 'wide'],
  ['paired', 'paired'],
]
const tones: [Use['tone'], string][] = [
  ['ink', 'ink'],
  ['moss', 'moss'],
  ['lake', 'lake'],
  ['plum', 'plum'],
  ['clay', 'clay'],
]
const readers: [Use['details'], string][] = [
  ['me', 'you alone'],
  ['colleagues', 'you and colleagues'],
  ['nobody', 'nobody, not even you'],
]

interface PickProps<T extends string> {
  label: string
  value: T
  options: [T, string][]
  onChange: (value: T) => void
}

function Pick<T extends string>({ label, value, options, onChange }: PickProps<T>) {
  return (
    <select
      aria-label={label}
      className="field-sizing-content border-0 border-b border-ink-2 bg-ground px-1 py-0.5 font-semibold text-ink"
      value={value}
      onChange={(event) => onChange(event.target.value as T)}
    >
      {options.map(([value, words]) => (
        <option key={value} value={value}>
          {words}
        </option>
      ))}
    </select>
  )
}

/** Minutes that a server's clock may be off without a word. */
const noticedSkew = 5

/** How far the first reading of a calendar has come. */
function FirstReading({ done, total }: Schemas['Progress']) {
  return (
    <p className="mt-1 text-note text-ink-2" role="status">
      <progress className="mr-2 w-40 accent-act align-middle" value={done} max={total || 1} aria-label="Events read" />
      {total
        ? `Reading it for the first time: ${done} of ${total} events have come.`
        : 'Reading it for the first time …'}
    </p>
  )
}

function Trouble({ calendar }: { calendar: Calendar }) {
  const zone = useMe().data?.person?.zone ?? 'UTC'
  return (
    <p className="text-note text-need" role="alert">
      {calendar.trouble}
      {calendar.tryAt && ` Asked again by itself at ${clock(new Date(calendar.tryAt), zone)}.`}
      {calendar.readAt && ' Below you choose what counts meanwhile.'}
    </p>
  )
}

interface TickProps {
  label: string
  name: string
  on: boolean
  onChange: (on: boolean) => void
}

function Tick({ label, name, on, onChange }: TickProps) {
  return (
    <label className="flex cursor-pointer items-center gap-1.5 text-note">
      <input
        type="checkbox"
        className="accent-act"
        aria-label={`${name} ${label}`}
        checked={on}
        onChange={(event) => onChange(event.target.checked)}
      />
      {label}
    </label>
  )
}

/** "12 events · takes 5½ hours of your open hours in the coming four weeks · last read 20 seconds ago" */
function picture(calendar: Calendar, use: Use['use']): string {
  if (use === 'ignored') {
    return calendar.receives ? 'Not read, so what you change about your bookings there isn’t noticed' : 'Not read'
  }
  const parts = [`${calendar.events} event${calendar.events === 1 ? '' : 's'}`]
  if (use === 'blocks') parts.push(`takes ${hours(calendar.takes)} of your open hours in the coming four weeks`)
  parts.push(calendar.readAt ? `last read ${ago(calendar.readAt)}` : 'not read yet')
  return parts.join(' · ')
}

function hours(minutes: number): string {
  if (minutes === 0) return 'nothing'
  const whole = Math.floor(minutes / 60)
  const rest = minutes % 60
  if (whole === 0) return `${rest} minutes`
  return `${whole}${rest ? `:${String(rest).padStart(2, '0')}` : ''} hour${minutes === 60 ? '' : 's'}`
}

function ago(readAt: string): string {
  const seconds = Math.max(0, Math.round((Date.now() - new Date(readAt).getTime()) / 1000))
  if (seconds < 90) return `${seconds} seconds ago`
  if (seconds < 90 * 60) return `${Math.round(seconds / 60)} minutes ago`
  return `${Math.round(seconds / 3600)} hours ago`
}
