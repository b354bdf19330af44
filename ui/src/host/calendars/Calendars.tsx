import { useState } from 'react'
import type { Schemas } from '../../api/client'
import { api, need } from '../../api/client'
import { Button, Need } from '../../kit/kit'
import { useCalendarChange, useCalendars } from '../queries'
import { View } from '../Shell'
import { Connect } from './Connect'

type Calendar = Schemas['Calendar']

export function Calendars() {
  const calendars = useCalendars()
  const read = useCalendarChange(() => need(api.POST('/calendars/read')))
  const accounts = Map.groupBy(calendars.data ?? [], (calendar) => calendar.account)
  return (
    <View
      title="Calendars"
      note="What you have elsewhere, so that nothing is booked over it"
      actions={
        accounts.size > 0 && (
          <Button kind="text" onClick={() => read.mutate(undefined)} disabled={read.isPending}>
            {read.isPending ? 'Reading …' : 'Read all now'}
          </Button>
        )
      }
      aside={<Connect />}
      asideWidth="23.7rem"
    >
      {calendars.error && <Need>{calendars.error.message}</Need>}
      {read.error && <Need className="mb-3">{read.error.message}</Need>}
      {calendars.data && accounts.size === 0 && (
        <p className="border-y border-rule py-4 text-ink-2">
          No calendar is connected yet, so all your open hours are offered. Connect one at the right: its events block
          time at once.
        </p>
      )}
      {[...accounts].map(([id, list]) => (
        <Account key={id} id={id} calendars={list} />
      ))}
    </View>
  )
}

function Account({ id, calendars }: { id: number; calendars: Calendar[] }) {
  const forget = useCalendarChange((account: number) =>
    need(api.DELETE('/calendar-accounts/{id}', { params: { path: { id: account } } })),
  )
  const first = calendars[0]
  if (!first) return null
  return (
    <section aria-label={`${first.username} at ${first.server}`} className="mb-8 max-w-3xl">
      <div className="flex items-baseline justify-between gap-4 border-b border-rule-strong pb-1">
        <h2>
          {first.username} <span className="font-text text-note text-ink-2">at {first.server}</span>
        </h2>
        <Button kind="text" className="text-note" onClick={() => forget.mutate(id)}>
          Disconnect
        </Button>
      </div>
      {forget.error && <Need>{forget.error.message}</Need>}
      {calendars.map((calendar) => (
        <CalendarRow key={calendar.id} calendar={calendar} />
      ))}
    </section>
  )
}

function CalendarRow({ calendar }: { calendar: Calendar }) {
  const use = useCalendarChange((body: { blocks: boolean; receives: boolean }) =>
    need(api.PUT('/calendars/{id}', { params: { path: { id: calendar.id } }, body })),
  )
  // What was just ticked shows at once; the server's answer follows.
  const [wanted, setWanted] = useState<{ blocks: boolean; receives: boolean } | null>(null)
  const { blocks, receives } = wanted ?? calendar
  const set = (next: { blocks: boolean; receives: boolean }) => {
    setWanted(next)
    use.mutate(next, { onSettled: () => setWanted(null) })
  }
  return (
    <div className="border-b border-rule py-3">
      <div className="grid items-baseline gap-x-6 gap-y-1 sm:grid-cols-[1fr_auto_auto]">
        <h3 className="font-text text-[16.5px] font-semibold">{calendar.name}</h3>
        <Tick label="blocks time" name={calendar.name} on={blocks} onChange={(on) => set({ blocks: on, receives })} />
        <Tick
          label="receives bookings"
          name={calendar.name}
          on={receives}
          onChange={(on) => set({ blocks, receives: on })}
        />
      </div>
      <p className="text-note text-ink-2">{lastRead(calendar)}</p>
      {calendar.trouble && (
        <p className="text-note text-need" role="alert">
          {calendar.trouble}
          {calendar.readAt && ' Its last copy counts until then.'}
        </p>
      )}
      {calendar.leftOut.map((problem) => (
        <p key={problem} className="text-note text-need">
          {problem} The rest of the calendar counts. Mend the event there, or remove it.
        </p>
      ))}
      {use.error && <Need>{use.error.message}</Need>}
    </div>
  )
}

function Tick({
  label,
  name,
  on,
  onChange,
}: {
  label: string
  name: string
  on: boolean
  onChange: (on: boolean) => void
}) {
  return (
    <label className="flex cursor-pointer items-center gap-2 text-note">
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

function lastRead(calendar: Calendar): string {
  if (!calendar.readAt) return calendar.blocks ? 'Not read yet' : 'Not read, since it blocks no time'
  const seconds = Math.max(0, Math.round((Date.now() - new Date(calendar.readAt).getTime()) / 1000))
  const ago = seconds < 90 ? `${seconds} seconds ago` : `${Math.round(seconds / 60)} minutes ago`
  return `${calendar.events} event${calendar.events === 1 ? '' : 's'} · last read ${ago}`
}
