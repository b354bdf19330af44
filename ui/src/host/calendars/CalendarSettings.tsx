import { useMutation, useQueryClient } from '@tanstack/react-query'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { hasChanged, keys } from '../../api/keys'
import { Meanwhile } from '../../edit/Meanwhile'
import { useEditor } from '../../edit/useEditor'
import { Button, Need } from '../../kit/kit'
import { say } from '../../say'
import { useCalendarSettings, useTypes } from '../queries'
import { Choice, NumberPart, pairs, partLook, Sentence } from '../rules/parts'

type Value = Schemas['CalendarSettings']

/** What counts for all calendars: while one can't be read, and whether events open time instead of the week. */
export function CalendarSettings() {
  const asked = useCalendarSettings()
  if (asked.error) return <Need>{asked.error.message}</Need>
  return asked.data ? <Editor choices={asked.data} /> : null
}

const ways = pairs<Value['unreachable']>({ trust: say.calendars.useLastCopy, nothing: say.calendars.offerNothing })
const answers = pairs<Value['eventChange']>({
  ask: say.calendars.youAskedToday,
  follow: say.calendars.bookingFollowsClientTold,
})
const sources = pairs({ week: say.calendars.yourWeek, events: say.calendars.eventsTitle })

/** What the fields are called. */
const fieldWords: Record<keyof Value, string> = {
  unreachable: say.calendars.whileCalendarCantRead,
  trustHours: say.calendars.hoursCopyTrusted,
  eventChange: say.calendars.ifYouChangeBookings,
  openTitle: say.calendars.whereYourHoursCome,
  openType: say.calendars.whichMeetingTypesTitle,
}

function Editor({ choices }: { choices: Value }) {
  const { draft, saved, set, keep, conflicts, discard } = useEditor(choices)
  const client = useQueryClient()
  const save = useMutation<Value, Refusal, Value>({
    mutationFn: (body) => need(api.PUT('/calendars/settings', { body })),
    onSuccess: (now) => {
      keep(now)
      client.setQueryData(keys.calendarSettings, now)
      void hasChanged(client, 'calendarSettings')
    },
  })
  const changed = JSON.stringify(draft) !== JSON.stringify(saved)
  const marked = draft.openTitle !== ''
  const types = useTypes().data ?? []
  return (
    <section aria-labelledby="choices-head" className="max-w-3xl">
      <h2 id="choices-head" className="border-b border-rule-strong pb-1">
        {say.calendars.allCalendars}
      </h2>
      <Meanwhile conflicts={conflicts} name={(field) => fieldWords[field as keyof Value]} onTheirs={discard} />
      <Sentence problems={[]} note={say.calendars.youToldMailOnce}>
        {say.calendars.whileCalendarBlocksTime}{' '}
        <Choice
          label={say.calendars.whileCalendarCantRead}
          value={draft.unreachable}
          options={ways}
          changed={draft.unreachable !== saved.unreachable}
          onChange={(unreachable) => set({ unreachable })}
        />
        {draft.unreachable === 'trust' && (
          <>
            {' '}
            {say.calendars.up}{' '}
            {say.calendars.hours(
              <NumberPart
                label={say.calendars.hoursCopyTrusted}
                value={draft.trustHours}
                changed={draft.trustHours !== saved.trustHours}
                wrong={draft.trustHours < 1}
                onChange={(trustHours) => set({ trustHours })}
              />,
            )}
          </>
        )}
        .
      </Sentence>
      <Sentence problems={[]} note={say.calendars.decliningCancellingCountsDeleting}>
        {say.calendars.ifYouDeleteMove}{' '}
        <Choice
          label={say.calendars.ifYouChangeBookings}
          value={draft.eventChange}
          options={answers}
          changed={draft.eventChange !== saved.eventChange}
          onChange={(eventChange) => set({ eventChange })}
        />
        .
      </Sentence>
      <Sentence problems={[]} note={marked && say.calendars.yourWeekDoesntCount}>
        {say.calendars.yourHoursComeFrom}{' '}
        <Choice
          label={say.calendars.whereYourHoursCome}
          value={marked ? 'events' : 'week'}
          options={sources}
          changed={marked !== (saved.openTitle !== '')}
          onChange={(chosen) => set({ openTitle: chosen === 'week' ? '' : say.calendars.openClients })}
        />
        {marked && (
          <>
            :{' '}
            <input
              aria-label={say.calendars.titleEventsOpenTime}
              className={partLook(draft.openTitle !== saved.openTitle, false)}
              maxLength={100}
              value={draft.openTitle}
              onChange={(event) => set({ openTitle: event.target.value })}
            />{' '}
            {say.calendars.forTypes}{' '}
            <Choice
              label={say.calendars.whichMeetingTypesTitle}
              value={String(draft.openType)}
              options={[
                ['0', say.calendars.allMeetingTypes],
                ...types.map((t): [string, string] => [String(t.id), t.name]),
              ]}
              changed={draft.openType !== saved.openType}
              onChange={(id) => set({ openType: Number(id) })}
            />
          </>
        )}
        .
      </Sentence>
      {save.error && <Need className="mt-3">{save.error.message}</Need>}
      {changed && (
        <div className="mt-3 flex gap-3">
          <Button onClick={() => save.mutate(draft)} disabled={save.isPending}>
            {say.calendars.save}
          </Button>
          <Button kind="plain" onClick={discard}>
            {say.calendars.discardChanges}
          </Button>
        </div>
      )}
    </section>
  )
}
