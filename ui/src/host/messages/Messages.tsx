import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { hasChanged, keys } from '../../api/keys'
import { Meanwhile } from '../../edit/Meanwhile'
import { SaveBar } from '../../edit/SaveBar'
import { useUnsaved } from '../../edit/unsaved'
import { useEditor, useFirstFault } from '../../edit/useEditor'
import { Button, Need } from '../../kit/kit'
import { say, toldOf } from '../../say'
import { useMe } from '../queries'
import { View } from '../Shell'
import { Undo } from '../Undo'
import { useDebounced } from '../useDebounced'
import { Ahead } from './Ahead'
import { MessageSentence, type Rule } from './MessageSentence'

type Value = Schemas['Messages']
type Draft = { rules: Rule[] }

/** What is mailed before and after meetings, as sentences; and what will be sent. */
export function Messages() {
  const view = useQuery<Value, Refusal>({ queryKey: keys.messages, queryFn: () => need(api.GET('/messages')) })
  if (view.error) return <Need className="m-10">{view.error.message}</Need>
  return view.data ? <Editor view={view.data} /> : null
}

const another: Rule = { id: 0, receiver: 'client', minutes: 24 * 60, side: 'before', if: 'always' }

function Editor({ view }: { view: Value }) {
  const editor = useEditor<Draft>({ rules: view.rules })
  const { rules } = editor.draft
  const saved = editor.saved.rules
  const changes = countChanged(saved, rules)
  const trial = useTrial(editor.draft, view.edits && changes > 0)
  const save = useSave((rules) => editor.keep({ rules }))
  useFirstFault(save.error)
  useUnsaved(changes > 0, () => save.mutateAsync(editor.draft))
  const zone = useMe().data?.person?.zone ?? 'UTC'
  const wrong: Record<string, string> = { ...toldOf(changes > 0 ? trial?.wrong : {}), ...save.error?.fields }
  const ahead = changes > 0 ? (trial ?? view) : view
  const set = (next: Rule[]) => {
    save.reset()
    editor.set({ rules: next })
  }
  return (
    <View
      title={say.messages.messages}
      note={say.messages.mailsClock}
      actions={changes === 0 && <Undo />}
      bar={
        <SaveBar
          changes={changes}
          save={save}
          what={[say.messages.messages]}
          effect={say.messages.changeDoes(ahead.adds, ahead.takes)}
          faults={Object.keys(wrong).length}
          discard={editor.discard}
          onSave={() => save.mutate(editor.draft)}
        />
      }
      aside={<Ahead ahead={ahead} zone={zone} />}
      asideWidth="27rem"
    >
      <Meanwhile conflicts={editor.conflicts} name={() => say.messages.messages} onTheirs={editor.discard} />
      {save.error && Object.keys(save.error.fields).length === 0 && <Need className="mb-4">{save.error.message}</Need>}
      {wrong.rules && <Need className="mb-4">{wrong.rules}</Need>}
      <div className="max-w-3xl" key={editor.round}>
        <p className="text-note text-ink-2">{say.messages.toldAtOnce}</p>
        {rules.length === 0 && <p className="mt-4 text-ink-3">{say.messages.none}</p>}
        <ul aria-label={say.messages.mailsClock} className="mt-2">
          {rules.map((rule, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: new ones have no number of their own yet, and they keep their places
            <li key={i}>
              <MessageSentence
                rule={rule}
                place={i}
                before={saved.find(({ id }) => id === rule.id && id !== 0)}
                edits={view.edits}
                problem={wrong[`rules.${i}`]}
                onChange={(change) => set(rules.map((one, at) => (at === i ? { ...one, ...change } : one)))}
                onRemove={() => set(rules.filter((_, at) => at !== i))}
              />
            </li>
          ))}
        </ul>
        {view.edits && (
          <p className="mt-4">
            <Button kind="plain" onClick={() => set([...rules, another])}>
              {say.messages.add}
            </Button>
          </p>
        )}
      </div>
    </View>
  )
}

/** How many are new, changed or gone. */
function countChanged(before: Rule[], after: Rule[]): number {
  const kept = after.filter((rule) => before.some((was) => JSON.stringify(was) === JSON.stringify(rule)))
  const gone = before.filter((was) => !after.some((rule) => rule.id === was.id))
  return after.length - kept.length + gone.length
}

function useTrial(draft: Draft, tried: boolean): Schemas['MessagesAhead'] | undefined {
  const still = useDebounced(draft)
  return useQuery({
    queryKey: keys.tried.messages(still),
    queryFn: () => need(api.POST('/messages/preview', { body: still })),
    placeholderData: keepPreviousData,
    staleTime: 0,
    enabled: tried,
  }).data
}

function useSave(onSaved: (rules: Rule[]) => void) {
  const client = useQueryClient()
  return useMutation<Value, Refusal, Draft>({
    mutationFn: (body) => need(api.PUT('/messages', { body })),
    onSuccess: (now) => {
      onSaved(now.rules)
      client.setQueryData(keys.messages, now)
      void hasChanged(client, 'messages')
    },
  })
}
