import { useMutation, useQueryClient } from '@tanstack/react-query'
import { type ChangeEvent, type FormEvent, useState } from 'react'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { hasChanged, keys } from '../../api/keys'
import { Button, TextField } from '../../kit/kit'
import { say } from '../../say'
import { longDate, shortDate } from '../../time/time'

type Calendar = Schemas['HolidayCalendar']
type View = Schemas['WorkspaceView']

function useHolidays<T>(ask: (given: T) => Promise<View>) {
  const client = useQueryClient()
  return useMutation<View, Refusal, T>({
    mutationFn: ask,
    onSuccess: (view) => {
      client.setQueryData(keys.workspace, view)
      void hasChanged(client, 'workspace')
    },
  })
}

/** The workspace's calendars of public holidays, on which rules may keep types closed. They are kept at once, without saving. */
export function Holidays({ calendars }: { calendars: Calendar[] }) {
  return (
    <>
      <h2 className="mt-6 border-b border-rule-strong pb-1.5">{say.workspace.publicHolidays}</h2>
      {calendars.map((calendar) => (
        <OneCalendar key={calendar.id} calendar={calendar} />
      ))}
      <NewCalendar />
    </>
  )
}

function OneCalendar({ calendar }: { calendar: Calendar }) {
  const { id, name } = calendar
  const params = { path: { id } }
  const renew = useHolidays((text: string) =>
    need(api.PUT('/workspace/holidays/{id}', { params, body: { name, text } })),
  )
  const remove = useHolidays(() => need(api.DELETE('/workspace/holidays/{id}', { params })))
  const problem = renew.error?.fields.file ?? renew.error?.message ?? remove.error?.message
  return (
    <div className="border-b border-rule py-3">
      <p className="flex items-baseline gap-3">
        <span className="flex-1 font-semibold">{name}</span>
        <ReadFile label={say.workspace.daysFromAnotherFile(name)} onText={(text) => renew.mutate(text)}>
          {say.workspace.anotherFile}
        </ReadFile>
        <Button
          kind="text"
          className="text-note"
          aria-label={say.workspace.removeCalendar(name)}
          onClick={() => remove.mutate(undefined)}
        >
          {say.workspace.remove}
        </Button>
      </p>
      <p className="text-note text-ink-2">{comingOf(calendar)}</p>
      {problem && (
        <p role="alert" className="text-note text-need">
          {problem}
        </p>
      )}
    </div>
  )
}

/** "Christmas Day on Fri 25 Dec, New Year's Day on Fri 1 Jan and 11 more, the last on Tuesday 26 December 2028." */
function comingOf({ next, ahead, until }: Calendar): string {
  if (ahead === 0) return say.workspace.noneDaysComeRead
  const [first, second] = next.map((day) =>
    say.workspace.dayOn(day.name || say.workspace.holiday, shortDate(day.first)),
  )
  const named = second ? `${first}, ${second}` : first
  return ahead > 2 ? say.workspace.moreLast(named ?? '', ahead - 2, longDate(until)) : `${named}.`
}

function NewCalendar() {
  const [file, setFile] = useState<{ name: string; text: string } | null>(null)
  const add = useHolidays((body: { name: string; text: string }) => need(api.POST('/workspace/holidays', { body })))
  const submit = (event: FormEvent) => {
    event.preventDefault()
    if (file) add.mutate(file, { onSuccess: () => setFile(null) })
  }
  const choose = (text: string, fileName: string) => {
    add.reset()
    setFile({ name: fileName.replace(/\.[^.]*$/, ''), text })
  }
  return (
    <div className="border-b border-rule py-3 text-note">
      <ReadFile label={say.workspace.addPublicHolidaysFrom} onText={choose}>
        {say.workspace.addPublicHolidaysFrom}
      </ReadFile>
      {file && (
        <form onSubmit={submit} noValidate className="mt-3 grid max-w-sm gap-3">
          <TextField
            autoFocus
            label={say.workspace.whoseHolidaysThey}
            hint={say.workspace.countryRegion}
            value={file.name}
            problem={add.error?.fields.name}
            onChange={(event) => setFile({ ...file, name: event.target.value })}
          />
          {(add.error?.fields.file ?? (add.error && !add.error.fields.name)) && (
            <p role="alert" className="text-need">
              {add.error?.fields.file ?? add.error?.message}
            </p>
          )}
          <div className="flex gap-3">
            <Button type="submit" disabled={add.isPending}>
              {say.workspace.addThem}
            </Button>
            <Button kind="plain" onClick={() => setFile(null)}>
              {say.workspace.leaveFile}
            </Button>
          </div>
        </form>
      )}
    </div>
  )
}

interface ReadFileProps {
  label: string
  children: string
  onText: (text: string, name: string) => void
}

function ReadFile({ label, children, onText }: ReadFileProps) {
  const choose = async ({ target }: ChangeEvent<HTMLInputElement>) => {
    const file = target.files?.[0]
    if (file) onText(await file.text(), file.name)
    target.value = '' // so that the same file can be chosen again
  }
  return (
    <label className="link cursor-pointer text-note focus-within:outline-2">
      {children}
      <input type="file" aria-label={label} accept=".ics,text/calendar" className="sr-only" onChange={choose} />
    </label>
  )
}
