import { useState } from 'react'
import type { Schemas } from '../../api/client'
import { api, need } from '../../api/client'
import { Need } from '../../kit/kit'
import { say, told } from '../../say'
import { clock } from '../../time/time'
import { inTurn, useCalendarChange, useCalendarSettings, useMe } from '../queries'

type Calendar = Schemas['Calendar']
type Use = Schemas['CalendarUse']

const uses: [Use['use'], string][] = [
  ['blocks', say.calendars.blocksTime],
  ['shown', say.calendars.shownOnly],
  ['ignored', say.calendars.ignored],
]

/** One calendar: what it is used for, what it takes, and what is wrong with it. */
export function CalendarRow({ calendar }: { calendar: Calendar }) {
  const titled = useCalendarSettings().data?.openTitle
  const change = useCalendarChange(
    (body: Use) => need(api.PUT('/calendars/{id}', { params: { path: { id: calendar.id } }, body })),
    inTurn(`calendar ${calendar.id}`),
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
          aria-label={say.calendars.whatDoes(calendar.name)}
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
          <Tick
            label={say.calendars.receivesBookings}
            name={calendar.name}
            on={receives}
            onChange={(on) => set({ receives: on })}
          />
        )}
        {use === 'blocks' && (
          <>
            <Tick
              label={say.calendars.tentativeBlock}
              name={calendar.name}
              on={tentative}
              onChange={(on) => set({ tentative: on })}
            />
            <Tick
              label={say.calendars.allDayBlock}
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
          {say.calendars.canOnlyReadThere}
          {receives && say.calendars.chooseAnotherCalendarReceives}
        </p>
      )}
      {Math.abs(calendar.skew) >= noticedSkew && (
        <p className="text-note text-need">
          {say.calendars.clockServerMinutesOurs(Math.abs(calendar.skew), calendar.skew > 0)}
        </p>
      )}
      {use !== 'ignored' && (
        <p className="mt-1 flex flex-wrap items-center gap-x-1.5 gap-y-1 text-note text-ink-2">
          <span className="relative inline-block h-4 w-9">
            <span className={`mark mark-busy right-0 left-0 hatch-${pattern} tone-${tone}`} />
          </span>
          <Pick
            label={say.calendars.hatchOf(calendar.name)}
            value={pattern}
            options={hatches}
            onChange={(pattern) => set({ pattern })}
          />
          {say.calendars.hatch}
          <Pick
            label={say.calendars.toneOf(calendar.name)}
            value={tone}
            options={tones}
            onChange={(tone) => set({ tone })}
          />
          {say.calendars.toneDetailsSeen}
          <Pick
            label={say.calendars.whoSeesDetails(calendar.name)}
            value={details}
            options={readers}
            onChange={(details) => set({ details })}
          />
          {say.calendars.neverClients}
          {titled && (
            <Tick
              label={say.calendars.opensTimeHere(titled)}
              name={calendar.name}
              on={mayOpen}
              onChange={(on) => set({ mayOpen: on })}
            />
          )}
        </p>
      )}
      {calendar.trouble && <Trouble calendar={calendar} />}
      {calendar.leftOut.map((problem) => (
        <p key={problem.sentence} className="text-note text-need">
          {say.calendars.restCalendarCountsMend(told(problem))}
        </p>
      ))}
      {change.error && <Need>{change.error.message}</Need>}
    </div>
  )
}

const hatches = Object.entries(say.calendars.hatches) as [Use['pattern'], string][]
const tones = Object.entries(say.calendars.tones) as [Use['tone'], string][]
const readers: [Use['details'], string][] = [
  ['me', say.calendars.youAlone],
  ['colleagues', say.calendars.youColleagues],
  ['nobody', say.calendars.nobodyNotEvenYou],
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
      <progress
        className="mr-2 w-40 accent-act align-middle"
        value={done}
        max={total || 1}
        aria-label={say.calendars.eventsRead}
      />
      {total ? say.calendars.readingFirstTimeEvents(done, total) : say.calendars.readingFirstTime}
    </p>
  )
}

function Trouble({ calendar }: { calendar: Calendar }) {
  const zone = useMe().data?.person?.zone ?? 'UTC'
  return (
    <p className="text-note text-need" role="alert">
      {told(calendar.trouble)}
      {calendar.tryAt && say.calendars.askedAgainItself(clock(new Date(calendar.tryAt), zone))}
      {calendar.readAt && say.calendars.belowYouChooseWhat}
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
    return calendar.receives ? say.calendars.notReadWhatYou : say.calendars.notRead
  }
  const parts = [say.calendars.event(calendar.events)]
  if (use === 'blocks')
    parts.push(
      say.calendars.takesYourOpenHours(say.calendars.hour(Math.floor(calendar.takes / 60), calendar.takes % 60)),
    )
  parts.push(calendar.readAt ? say.calendars.lastRead(ago(calendar.readAt)) : say.calendars.notReadYet)
  return parts.join(' · ')
}

function ago(readAt: string): string {
  const seconds = Math.max(0, Math.round((Date.now() - new Date(readAt).getTime()) / 1000))
  if (seconds < 90) return say.calendars.secondsAgo(seconds)
  if (seconds < 90 * 60) return say.calendars.minutesAgo(Math.round(seconds / 60))
  return say.calendars.hoursAgo(Math.round(seconds / 3600))
}
