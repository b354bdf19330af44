import { useMutation, useQueryClient } from '@tanstack/react-query'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { hasChanged, keys } from '../../api/keys'
import { Meanwhile } from '../../edit/Meanwhile'
import { useEditor } from '../../edit/useEditor'
import { Button, Need } from '../../kit/kit'
import { useCalendarChoices, useTypes } from '../queries'
import { Choice, NumberPart, partLook, Sentence } from '../rules/parts'

type Value = Schemas['CalendarChoices']

/** What counts for all calendars: while one can't be read, and whether events open time instead of the week. */
export function Choices() {
  const asked = useCalendarChoices()
  if (asked.error) return <Need>{asked.error.message}</Need>
  return asked.data ? <Editor choices={asked.data} /> : null
}

const ways = { 'use the last copy': 'trust', 'offer nothing': 'nothing' } as const
const answers = { 'you are asked on Today': 'ask', 'the booking follows and the client is told': 'follow' } as const
const everyType = 'all meeting types'
const sources = ['your week', 'events with a title'] as const

function Editor({ choices }: { choices: Value }) {
  const { draft, saved, set, keep, conflicts, discard } = useEditor(choices)
  const client = useQueryClient()
  const save = useMutation<Value, Refusal, Value>({
    mutationFn: (body) => need(api.PUT('/calendars/choices', { body })),
    onSuccess: (now) => {
      keep(now)
      client.setQueryData(keys.calendarChoices, now)
      void hasChanged(client, 'calendarChoices')
    },
  })
  const changed = JSON.stringify(draft) !== JSON.stringify(saved)
  const marked = draft.openTitle !== ''
  const types = useTypes().data ?? []
  const titled = types.find((t) => t.id === draft.openType)?.name ?? everyType
  return (
    <section aria-labelledby="choices-head" className="max-w-3xl">
      <h2 id="choices-head" className="border-b border-rule-strong pb-1">
        For all calendars
      </h2>
      <Meanwhile conflicts={conflicts} onTheirs={discard} />
      <Sentence problems={[]} note="You are told by mail, once, if it lasts longer than ten minutes.">
        While a calendar that blocks time can’t be read,{' '}
        <Choice
          label="While a calendar can't be read"
          value={draft.unreachable === 'trust' ? 'use the last copy' : 'offer nothing'}
          options={Object.keys(ways)}
          changed={draft.unreachable !== saved.unreachable}
          onChange={(chosen) => set({ unreachable: ways[chosen as keyof typeof ways] })}
        />
        {draft.unreachable === 'trust' && (
          <>
            for up to{' '}
            <NumberPart
              label="Hours that a copy is trusted"
              value={draft.trustHours}
              changed={draft.trustHours !== saved.trustHours}
              wrong={draft.trustHours < 1}
              onChange={(trustHours) => set({ trustHours })}
            />{' '}
            hours
          </>
        )}
        .
      </Sentence>
      <Sentence problems={[]} note="Declining or cancelling counts as deleting.">
        If you delete or move a booking’s event in your calendar,{' '}
        <Choice
          label="If you change a booking's event"
          value={draft.eventChange === 'ask' ? 'you are asked on Today' : 'the booking follows and the client is told'}
          options={Object.keys(answers)}
          changed={draft.eventChange !== saved.eventChange}
          onChange={(chosen) => set({ eventChange: answers[chosen as keyof typeof answers] })}
        />
        .
      </Sentence>
      <Sentence
        problems={[]}
        note={
          marked && 'Your week doesn’t count then; time off does. Those events block nothing, whatever else they say.'
        }
      >
        Your hours come from{' '}
        <Choice
          label="Where your hours come from"
          value={marked ? 'events with a title' : 'your week'}
          options={[...sources]}
          changed={marked !== (saved.openTitle !== '')}
          onChange={(chosen) => set({ openTitle: chosen === 'your week' ? '' : 'Open for clients' })}
        />
        {marked && (
          <>
            :{' '}
            <input
              aria-label="Title of the events that open time"
              className={partLook(draft.openTitle !== saved.openTitle, false)}
              maxLength={100}
              value={draft.openTitle}
              onChange={(event) => set({ openTitle: event.target.value })}
            />{' '}
            for{' '}
            <Choice
              label="Which meeting types the title is for"
              value={titled}
              options={[everyType, ...types.map((t) => t.name)]}
              changed={draft.openType !== saved.openType}
              onChange={(name) => set({ openType: types.find((t) => t.name === name)?.id ?? 0 })}
            />
          </>
        )}
        .
      </Sentence>
      {save.error && <Need className="mt-3">{save.error.message}</Need>}
      {changed && (
        <div className="mt-3 flex gap-3">
          <Button onClick={() => save.mutate(draft)} disabled={save.isPending}>
            Save this
          </Button>
          <Button kind="plain" onClick={discard}>
            Discard changes
          </Button>
        </div>
      )}
    </section>
  )
}
