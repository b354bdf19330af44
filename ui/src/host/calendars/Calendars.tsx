import type { Schemas } from '../../api/client'
import { api, need } from '../../api/client'
import { Button, Need } from '../../kit/kit'
import { say } from '../../say'
import { useCalendarChange, useCalendars } from '../queries'
import { View } from '../Shell'
import { CalendarRow } from './CalendarRow'
import { CalendarSettings } from './CalendarSettings'
import { Connect } from './Connect'
import { FeedsOut } from './FeedsOut'

type Calendar = Schemas['Calendar']

export function Calendars() {
  const calendars = useCalendars()
  const read = useCalendarChange(() => need(api.POST('/calendars/read')))
  const accounts = Map.groupBy(calendars.data ?? [], (calendar) => calendar.account)
  return (
    <View
      title={say.calendars.calendars}
      note={say.calendars.whatYouHaveElsewhere}
      actions={
        accounts.size > 0 && (
          <Button kind="text" onClick={() => read.mutate(undefined)} disabled={read.isPending}>
            {read.isPending ? say.calendars.reading : say.calendars.readAllNow}
          </Button>
        )
      }
      aside={<Connect />}
      asideWidth="23.7rem"
    >
      {calendars.error && <Need>{calendars.error.message}</Need>}
      {read.error && <Need className="mb-3">{read.error.message}</Need>}
      {calendars.data && accounts.size === 0 && (
        <p className="border-y border-rule py-4 text-ink-2">{say.calendars.noCalendarConnectedYet}</p>
      )}
      {[...accounts].map(([id, list]) => (
        <Account key={id} id={id} calendars={list} />
      ))}
      {accounts.size > 0 && <CalendarSettings />}
      <FeedsOut />
    </View>
  )
}

/** Where an account's calendars come from, in words. */
function placeOf({ kind, username, server }: Calendar): [name: string, where: string] {
  switch (kind) {
    case 'feed':
      return [username, say.calendars.fetchedFrom(server)]
    case 'file':
      return [username, say.calendars.fromFileStays]
    default:
      return [username, say.calendars.at(server)]
  }
}

function Account({ id, calendars }: { id: number; calendars: Calendar[] }) {
  const forget = useCalendarChange((account: number) =>
    need(api.DELETE('/calendar-accounts/{id}', { params: { path: { id: account } } })),
  )
  const first = calendars[0]
  if (!first) return null
  const [name, where] = placeOf(first)
  return (
    <section aria-label={`${name} ${where}`} className="mb-8 max-w-3xl">
      <div className="flex items-baseline justify-between gap-4 border-b border-rule-strong pb-1">
        <h2>
          {name} <span className="font-text text-note text-ink-2">{where}</span>
        </h2>
        <Button kind="text" className="text-note" onClick={() => forget.mutate(id)}>
          {first.kind === 'caldav' ? say.calendars.disconnect : say.calendars.remove}
        </Button>
      </div>
      {forget.error && <Need>{forget.error.message}</Need>}
      {calendars.map((calendar) => (
        <CalendarRow key={calendar.id} calendar={calendar} />
      ))}
    </section>
  )
}
