import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useMemo, useState } from 'react'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { lineLook, Need } from '../../kit/kit'
import { type Axis, axisFor } from '../../ribbon/geometry'
import { HoursRibbon } from '../../ribbon/HoursRibbon'
import { DayRibbon, Ruler } from '../../ribbon/Ribbon'
import { placeOf, shortDate } from '../../time/time'
import { useHours, useTypes } from '../queries'
import { SaveBar } from '../SaveBar'
import { View } from '../Shell'
import { reasonsPath } from '../types/Reasons'
import { Undo } from '../Undo'
import { useGo, useUnsaved } from '../unsaved'
import { useDebounced } from '../useDebounced'
import { useKey } from '../useKey'
import { Differing } from './Differing'

type Week = Schemas['DayInput'][]

const names = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun']
const fullNames = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday']

export function Hours() {
  const hours = useHours()
  if (hours.error) return <Need className="m-10">{hours.error.message}</Need>
  return hours.data ? <HoursEditor key={hours.data.week.map((day) => day.text).join()} saved={hours.data} /> : null
}

/** The week by typing or by drawing; what one says, the other shows. Reading and writing hours is the server's. */
function HoursEditor({ saved }: { saved: Schemas['HoursView'] }) {
  const unchanged = useMemo<Week>(() => saved.week.map(({ text }) => ({ text })), [saved])
  const [week, setWeek] = useState(unchanged)
  const view = usePreview(week, saved)
  const save = useSave(setWeek)
  const differs = view.week.map((day, i) => day.text !== saved.week[i]?.text)
  const changes = differs.filter(Boolean).length
  useUnsaved(changes > 0)

  const set = (i: number, day: Schemas['DayInput']) => setWeek(week.map((old, k) => (k === i ? day : old)))
  const axis = axisFor(
    view.week.flatMap((day) => day.intervals.map(({ start, end }) => ({ from: start, to: Math.min(end, 1440) }))),
    { from: 7 * 60, to: 20 * 60 },
  )
  return (
    <View
      title="Your week"
      note={`${placeOf(saved.zone)} time`}
      actions={
        changes === 0 ? (
          <Undo />
        ) : (
          <SaveBar
            changes={changes}
            saving={save.isPending}
            onBack={() => setWeek(unchanged)}
            onSave={() => save.mutate(week)}
          />
        )
      }
      aside={<Next view={view} />}
      asideWidth="27rem"
    >
      {save.error && <Need className="mb-4">{save.error.message}</Need>}
      <div className="grid max-w-3xl grid-cols-[3rem_minmax(0,1fr)_10rem] items-end gap-x-3.5">
        <span />
        <Ruler axis={axis} />
        <span />
        {week.map((input, i) => (
          <DayRow
            key={names[i]}
            name={names[i] ?? ''}
            fullName={fullNames[i] ?? ''}
            input={input}
            read={view.week[i]}
            changed={differs[i] ?? false}
            axis={axis}
            onChange={(day) => set(i, day)}
          />
        ))}
      </div>
      <p className="mt-5 max-w-2xl text-note text-ink-2">
        Type hours like <b className="font-semibold">9-12, 13-17</b> or <b className="font-semibold">8:30-11, 3-5pm</b>,
        and past midnight <b className="font-semibold">22-2</b>. Or draw them: drag over a free stretch to open it, drag
        what is open to move it, drag an end to stretch it, and draw an interval to nothing to close it.
      </p>
      <Differing changes={saved.differs} />
    </View>
  )
}

/** What the week as it stands reads as. While the server is asked, the last answer stays. */
function usePreview(week: Week, saved: Schemas['HoursView']): Schemas['HoursView'] {
  const still = useDebounced(week, 120)
  const asked = useQuery({
    queryKey: ['hours-preview', still],
    queryFn: () => need(api.POST('/hours/preview', { body: { week: still } })),
    placeholderData: keepPreviousData,
    refetchOnWindowFocus: false,
  })
  return asked.data ?? saved
}

function useSave(setWeek: (week: Week) => void) {
  const client = useQueryClient()
  return useMutation<Schemas['HoursView'], Refusal, Week>({
    mutationFn: (week) => need(api.PUT('/hours', { body: { week } })),
    onSuccess: (saved) => {
      client.setQueryData(['hours'], saved)
      setWeek(saved.week.map(({ text }) => ({ text })))
      void client.invalidateQueries({ queryKey: ['today'] })
    },
  })
}

interface DayRowProps {
  name: string
  fullName: string
  input: Schemas['DayInput']
  read: Schemas['DayHours'] | undefined
  changed: boolean
  axis: Axis
  onChange: (day: Schemas['DayInput']) => void
}

function DayRow({ name, fullName, input, read, changed, axis, onChange }: DayRowProps) {
  // Drawn hours are shown at once; their text comes from the server a moment later.
  const intervals = (input.drawn ? input.intervals : read?.intervals) ?? []
  const text = input.drawn ? (read?.text ?? '') : input.text
  const problem = input.drawn ? undefined : read?.problem
  const noteId = `hours-${name}`
  return (
    <>
      <span className="pb-2">{name}</span>
      <HoursRibbon
        name={fullName}
        intervals={intervals}
        axis={axis}
        onChange={(next) => onChange({ text: '', drawn: true, intervals: next })}
      />
      <div>
        <input
          aria-label={`${fullName}, hours as text`}
          aria-invalid={problem ? true : undefined}
          aria-describedby={problem ? noteId : undefined}
          className={`${lineLook(problem)} ${changed ? 'bg-act-soft!' : ''} ${text === 'closed' ? 'text-ink-3!' : ''}`}
          value={text}
          maxLength={200}
          onChange={(event) => onChange({ text: event.target.value })}
        />
      </div>
      {problem && (
        <p id={noteId} role="alert" className="col-span-2 col-start-2 pt-0.5 text-right text-note text-need">
          {problem}
        </p>
      )}
    </>
  )
}

function Next({ view }: { view: Schemas['HoursView'] }) {
  const go = useGo()
  const type = useTypes().data?.[0]
  const first = view.next[0]
  useKey('e', () => type && first && go(reasonsPath(type.id, first.date)))
  const axis = axisFor(
    view.next.flatMap((day) => day.open),
    { from: 8 * 60, to: 18 * 60 },
  )
  if (view.next.length === 0)
    return <p className="pt-2 text-ink-2">As soon as every day can be read, the next two weeks stand here.</p>
  return (
    <>
      <h2 className="pt-1 pb-2">The next two weeks as they are</h2>
      <div className="grid grid-cols-[5.2rem_1fr_6.2rem] items-end gap-x-2 text-note [&_.ribbon]:h-7.5">
        <span />
        <Ruler axis={axis} every={180} />
        <span />
        {view.next.map((day) => (
          <NextDay key={day.date} day={day} axis={axis} type={type} />
        ))}
      </div>
      <Effects effects={view.effects} />
    </>
  )
}

/** What the unsaved week does to the meeting types. */
function Effects({ effects }: { effects: Schemas['Effect'][] }) {
  if (effects.length === 0) return null
  return (
    <section aria-label="What the change does" className="mt-5 border-l-3 border-act pl-3 text-note" role="status">
      <p className="font-semibold text-act">Open starts in the next four weeks, with this change</p>
      <ul>
        {effects.map((effect) => (
          <li key={effect.type} className="figures">
            {effect.type} {effect.open}{' '}
            {effect.gained > 0 && <span className="text-act">+{effect.gained} gained </span>}
            {effect.lost > 0 && <span className="text-need">−{effect.lost} lost</span>}
          </li>
        ))}
      </ul>
    </section>
  )
}

/** A day as it results; its date leads to the reasons, for the first meeting type. */
function NextDay({
  day,
  axis,
  type,
}: {
  day: Schemas['Ribbon']
  axis: Axis
  type: Schemas['MeetingType'] | undefined
}) {
  const go = useGo()
  return (
    <>
      {type ? (
        <button
          type="button"
          className="figures pb-1 text-left hover:underline"
          title={`Why are times of “${type.name}” open or not? Key e`}
          aria-label={`Why? ${shortDate(day.date)}`}
          onClick={() => go(reasonsPath(type.id, day.date))}
        >
          {shortDate(day.date)}
        </button>
      ) : (
        <span className="figures pb-1">{shortDate(day.date)}</span>
      )}
      <DayRibbon day={day} axis={axis} name={shortDate(day.date)} />
      <span className={`pb-1 text-small ${day.origin === 'plan' ? 'text-ink-3' : 'font-semibold text-act'}`}>
        {day.origin}
      </span>
    </>
  )
}
