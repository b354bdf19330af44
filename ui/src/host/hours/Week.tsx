import { useQuery } from '@tanstack/react-query'
import { Popover } from 'radix-ui'
import { useRef, useState } from 'react'
import { api, need, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { lineLook } from '../../kit/kit'
import type { Interval } from '../../ribbon/editing'
import { type Axis, axisFor } from '../../ribbon/geometry'
import { HoursRibbon } from '../../ribbon/HoursRibbon'
import { useZoom, ZoomRuler } from '../../ribbon/ZoomRuler'
import { say, told } from '../../say'
import { weekdays, weekdaysShort } from '../../time/time'
import { useDebounced } from '../useDebounced'

export type Week = Schemas['DayInput'][]

const names = weekdaysShort()
export const fullNames = weekdays()

/** What a week reads as. Reading and writing hours is the server's; while it is asked, the last answer stays. */
export function useReadWeek(week: Week): Schemas['DayHours'][] | undefined {
  const still = useDebounced(week, 120)
  return useQuery({
    queryKey: keys.tried.week(still),
    queryFn: () => need(api.POST('/week/read', { body: { week: still } })),
    placeholderData: (last) => last,
    staleTime: Number.POSITIVE_INFINITY,
  }).data
}

interface Props {
  week: Week
  /** What it reads as; may be a moment behind. */
  read: Schemas['DayHours'][]
  /** Which days differ from what is saved. */
  changed: boolean[]
  onChange: (week: Week) => void
}

/** Seven weekdays by typing or by drawing; what one says, the other shows. */
export function WeekRows({ week, read, changed, onChange }: Props) {
  // While somebody types, hours are half written: the hours above them stay where they are until the field is left.
  const [typing, setTyping] = useState(false)
  const wide = axisFor(
    read.flatMap((day) => day.intervals.map(({ start, end }) => ({ from: start, to: Math.min(end, 1440) }))),
    { from: 7 * 60, to: 20 * 60 },
  )
  const settled = useRef(wide)
  if (!typing) settled.current = wide
  const [axis, zoom] = useZoom(settled.current)
  const set = (days: number[], day: Schemas['DayInput']) =>
    onChange(week.map((old, k) => (days.includes(k) ? day : old)))
  return (
    <div className="grid grid-cols-[2.6rem_minmax(0,1fr)_9.5rem_auto] items-end gap-x-3 max-sm:grid-cols-1">
      <span className="max-sm:hidden" />
      <ZoomRuler axis={axis} onZoom={zoom} />
      <span className="max-sm:hidden" />
      <span className="max-sm:hidden" />
      {week.map((input, i) => (
        <DayRow
          key={names[i]}
          name={names[i] ?? ''}
          fullName={fullNames[i] ?? ''}
          input={input}
          read={read[i]}
          changed={changed[i] ?? false}
          axis={axis}
          onTyping={setTyping}
          onChange={(day) => set([i], day)}
          onCopy={(to) => set(to, input)}
        />
      ))}
    </div>
  )
}

interface DayRowProps {
  name: string
  fullName: string
  input: Schemas['DayInput']
  read: Schemas['DayHours'] | undefined
  changed: boolean
  axis: Axis
  /** Whether somebody is in its field. */
  onTyping: (typing: boolean) => void
  onChange: (day: Schemas['DayInput']) => void
  onCopy: (to: number[]) => void
}

function DayRow({ name, fullName, input, read, changed, axis, onTyping, onChange, onCopy }: DayRowProps) {
  // Drawn hours are shown at once; their text comes from the server a moment later. What can't be read yet leaves what could be.
  const last = useRef<Interval[]>([])
  if (!input.drawn && read && !read.problem) last.current = read.intervals
  const intervals = (input.drawn ? input.intervals : last.current) ?? []
  const text = input.drawn ? (read?.text ?? '') : input.text
  const closed = text === 'closed'
  const problem = input.drawn || !read?.problem ? undefined : told(read.problem)
  const noteId = `hours-${name}`
  return (
    // On a phone, a day's text comes first and its ribbon below, as wide as there is room.
    <div className="contents max-sm:mb-3 max-sm:grid max-sm:grid-cols-[2.6rem_minmax(0,1fr)_auto] max-sm:items-end">
      <span className="pb-2">{name}</span>
      <div className="max-sm:order-last max-sm:col-span-full max-sm:mt-1">
        <HoursRibbon
          name={fullName}
          intervals={intervals}
          axis={axis}
          onChange={(next) => onChange({ text: '', drawn: true, intervals: next })}
        />
      </div>
      <div className="relative">
        <input
          aria-label={say.hours.hoursText(fullName)}
          aria-invalid={problem ? true : undefined}
          aria-describedby={problem ? noteId : undefined}
          className={`${lineLook(problem)} ${changed ? 'bg-act-soft!' : ''} ${closed ? 'text-ink-3!' : ''}`}
          value={closed ? say.hours.closed : text}
          maxLength={200}
          onFocus={() => onTyping(true)}
          onBlur={() => onTyping(false)}
          onChange={(event) => onChange({ text: event.target.value })}
        />
        {problem && (
          // Over the row below: nothing is to move while somebody types.
          <p
            id={noteId}
            role="alert"
            className="absolute top-full right-0 z-10 w-max max-w-88 bg-ground px-1 py-0.5 text-right text-note text-need"
          >
            {problem}
          </p>
        )}
      </div>
      <CopyDay fullName={fullName} onCopy={onCopy} />
    </div>
  )
}

/** Gives other weekdays the same hours. */
function CopyDay({ fullName, onCopy }: { fullName: string; onCopy: (to: number[]) => void }) {
  const from = fullNames.indexOf(fullName)
  return (
    <Popover.Root>
      <Popover.Trigger
        className="link pb-1.5 text-small"
        aria-label={say.hours.copyOtherDays(fullName)}
        title={say.hours.copyOtherDays(fullName)}
      >
        {say.hours.copy}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={4}
          className="border-t-3 border-act bg-sheet px-4 py-3 text-note text-ink outline outline-rule-strong"
        >
          <p className="mb-1.5 text-ink-2">{say.hours.sHoursAlso(fullName)}</p>
          <div className="flex gap-3">
            {names.map(
              (name, i) =>
                i !== from && (
                  <button
                    key={name}
                    type="button"
                    className="link"
                    aria-label={say.hours.alsoOn(fullNames[i] ?? '')}
                    onClick={() => onCopy([i])}
                  >
                    {name}
                  </button>
                ),
            )}
            <Popover.Close className="link font-semibold" onClick={() => onCopy([0, 1, 2, 3, 4])}>
              {say.hours.monFri}
            </Popover.Close>
          </div>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}
