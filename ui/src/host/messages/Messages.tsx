import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { lazy, type ReactNode, Suspense, useState } from 'react'
import { Link, useParams } from 'react-router'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { hasChanged, keys } from '../../api/keys'
import { Meanwhile } from '../../edit/Meanwhile'
import { SaveBar } from '../../edit/SaveBar'
import { useUnsaved } from '../../edit/unsaved'
import { type Editor, useEditor, useFirstFault } from '../../edit/useEditor'
import { Button, Need } from '../../kit/kit'
import { say, toldOf } from '../../say'
import { useMe, useType } from '../queries'
import { Unread, View } from '../Shell'
import { TypeFrame } from '../types/TypeFrame'
import { Undo } from '../Undo'
import { useDebounced } from '../useDebounced'
import { Ahead } from './Ahead'
import { AtOnce } from './AtOnce'
import { kindOf, MessageSentence, type Rule } from './MessageSentence'
import { QuietHours } from './QuietHours'
import type { Own } from './WordsPanel'

// The editor of words is large, and loaded when somebody writes some.
const WordsPanel = lazy(() => import('./WordsPanel').then(({ WordsPanel }) => ({ default: WordsPanel })))

type Value = Schemas['Messages']
type Draft = {
  rules: Rule[]
  quiet: Schemas['Quiet']
  words: Record<string, Own>
  alsoText: Schemas['MessageDraft']['alsoText']
}

/** What people are told, as sentences; in which words; and what will be sent. */
export function Messages() {
  const view = useMessages(0)
  return view.data ? <MessagesEditor view={view.data} /> : <Unread error={view.error} />
}

/** The same of a meeting type: those of the workspace, or its own. */
export function TypeMessages() {
  const id = Number(useParams().id)
  const type = useType(id)
  const view = useMessages(id)
  if (!type.data || !view.data) return <Unread error={type.error ?? view.error} />
  return <MessagesEditor key={id} view={view.data} type={type.data} />
}

function useMessages(type: number) {
  return useQuery<Value, Refusal>({
    queryKey: keys.messages(type),
    queryFn: () => need(api.GET('/messages', { params: { query: { type } } })),
    refetchOnWindowFocus: false,
  })
}

const another: Rule = { id: 0, receiver: 'client', minutes: 24 * 60, side: 'before', if: 'always' }

function MessagesEditor({ view, type }: { view: Value; type?: Schemas['MeetingType'] }) {
  const id = type?.id ?? 0
  const editor = useEditor<Draft>({ rules: view.rules, quiet: view.quiet, words: view.words, alsoText: view.alsoText })
  const { draft } = editor
  const [open, setOpen] = useState<string | null>(null)
  const changes = countChanged(editor.saved, draft)
  const trial = useTrial(id, draft, view.edits && changes > 0)
  const save = useSave(id, editor.keep)
  useFirstFault(save.error)
  useUnsaved(changes > 0, () => save.mutateAsync(draft))
  const zone = useMe().data?.person?.zone ?? 'UTC'
  const wrong: Record<string, string> = { ...toldOf(changes > 0 ? trial?.wrong : {}), ...save.error?.fields }
  const ahead = changes > 0 ? (trial ?? view) : view
  const set = (change: Partial<Draft>) => {
    save.reset()
    editor.set(change)
  }
  const frame = {
    bar: (
      <SaveBar
        changes={changes}
        save={save}
        what={[say.messages.messages]}
        effect={say.messages.changeDoes(ahead.adds, ahead.takes)}
        faults={Object.keys(wrong).length}
        discard={editor.discard}
        onSave={() => save.mutate(draft)}
      />
    ),
    aside: (
      <>
        <Suspense>
          <OpenWords
            key={open}
            open={open}
            type={id}
            languages={view.in}
            draft={draft}
            set={set}
            onClose={() => setOpen(null)}
          />
        </Suspense>
        <Ahead ahead={ahead} zone={zone} />
      </>
    ),
    asideWidth: '27rem',
  }
  const sentences = (
    <Sentences type={id} view={view} editor={editor} open={open} wrong={wrong} set={set} onOpen={setOpen} />
  )
  const noted = (
    <>
      <Meanwhile conflicts={editor.conflicts} name={() => say.messages.messages} onTheirs={editor.discard} />
      {save.error && Object.keys(save.error.fields).length === 0 && <Need className="mb-4">{save.error.message}</Need>}
      {wrong.rules && <Need className="mb-4">{wrong.rules}</Need>}
      {wrong.words && <Need className="mb-4">{wrong.words}</Need>}
    </>
  )
  if (type) {
    return (
      <TypeFrame type={type} part={say.messages.messages} changed={changes > 0} {...frame}>
        {noted}
        <Whose view={view} type={id} changed={changes > 0} />
        {sentences}
      </TypeFrame>
    )
  }
  return (
    <View
      title={say.messages.messages}
      note={<TypesWithOwn types={view.types} />}
      actions={<Undo unsaved={changes > 0} />}
      {...frame}
    >
      {noted}
      {sentences}
    </View>
  )
}

interface SentencesProps {
  /** Whose they are; 0 is the workspace. */
  type: number
  view: Value
  editor: Editor<Draft>
  open: string | null
  wrong: Record<string, string>
  set: (change: Partial<Draft>) => void
  onOpen: (what: string) => void
}

function Sentences({ type, view, editor, open, wrong, set, onOpen }: SentencesProps) {
  const { rules, words } = editor.draft
  const change = (i: number, to: Partial<Rule>) =>
    set({ rules: rules.map((one, at) => (at === i ? { ...one, ...to } : one)) })
  return (
    <div className="max-w-3xl" key={editor.round}>
      <h2>{say.messages.mailsClock}</h2>
      {rules.length === 0 && <p className="mt-2 text-ink-3">{say.messages.none}</p>}
      <ul aria-label={say.messages.mailsClock}>
        {rules.map((rule, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: new ones have no number of their own yet, and they keep their places
          <li key={i} className={open === ofRule(i) ? 'bg-act-soft' : ''}>
            <MessageSentence
              rule={rule}
              place={i}
              before={editor.saved.rules.find(({ id }) => id === rule.id && id !== 0)}
              edits={view.edits}
              texts={view.texts}
              languages={view.in}
              asks={view.asks}
              problem={wrong[`rules.${i}`]}
              inWords={problemOfWords(wrong, `rules.${i}.words`)}
              onChange={(to) => change(i, to)}
              onRemove={() => set({ rules: rules.filter((_, at) => at !== i) })}
              onWords={() => onOpen(ofRule(i))}
            />
          </li>
        ))}
      </ul>
      {view.edits && (
        <p className="mt-4">
          <Button kind="plain" onClick={() => set({ rules: [...rules, another] })}>
            {say.messages.add}
          </Button>
        </p>
      )}
      {view.texts && type === 0 && (
        <QuietHours
          quiet={editor.draft.quiet}
          saved={editor.saved.quiet}
          edits={view.edits}
          problem={wrong.quiet}
          onChange={(quiet) => set({ quiet })}
        />
      )}
      <AtOnce
        kinds={view.told}
        words={words}
        open={open}
        edits={view.edits}
        texted={view.texts ? view.texted : []}
        alsoText={editor.draft.alsoText}
        problem={(kind) => problemOfWords(wrong, `words.${kind}`)}
        onWords={onOpen}
        onAlsoText={(alsoText) => set({ alsoText })}
      />
    </div>
  )
}

const ofRule = (place: number) => `rule ${place}`

function problemOfWords(wrong: Record<string, string>, field: string): string | undefined {
  const found = Object.entries(wrong).find(([one]) => one === field || one.startsWith(`${field}.`))
  return found && say.messages.inItsWords(found[1])
}

interface OpenWordsProps {
  open: string | null
  type: number
  languages: string[]
  draft: Draft
  set: (change: Partial<Draft>) => void
  onClose: () => void
}

/** The words of the message that was chosen: of one by the clock, or of one that is sent at once. */
function OpenWords({ open, type, languages, draft: { rules, words }, set, onClose }: OpenWordsProps) {
  if (!open) return null
  const place = rules.findIndex((_, i) => ofRule(i) === open)
  const rule = rules[place]
  if (rule) {
    return (
      <WordsPanel
        title={say.messages.wordsOf[kindOf(rule)] ?? ''}
        kind={kindOf(rule)}
        text={rule.by === 'text'}
        type={type}
        languages={languages}
        own={rule.words ?? {}}
        onChange={(own) => set({ rules: rules.map((one, i) => (i === place ? { ...one, words: own } : one)) })}
        onClose={onClose}
      />
    )
  }
  if (open.startsWith('rule ')) return null
  return (
    <WordsPanel
      title={say.messages.atOnce[open] ?? ''}
      kind={open}
      text={false}
      type={type}
      languages={languages}
      own={words[open] ?? {}}
      onChange={(own) => set({ words: { ...words, [open]: own } })}
      onClose={onClose}
    />
  )
}

/** Which types have messages of their own. */
function TypesWithOwn({ types }: { types: Schemas['TypeNamed'][] }): ReactNode {
  if (types.length === 0) return say.messages.forAllTypes
  return (
    <>
      {say.messages.forAllTypesBut(types.length)}{' '}
      {types.map(({ id, name }, i) => (
        <span key={id}>
          {i > 0 && ', '}
          <Link to={`/types/${id}/messages`}>{name}</Link>
        </span>
      ))}
    </>
  )
}

/** Whether a type's messages are its own; one press goes back. */
function Whose({ view, type, changed }: { view: Value; type: number; changed: boolean }) {
  const client = useQueryClient()
  const follow = useMutation<Value, Refusal, void>({
    mutationFn: () => need(api.DELETE('/messages', { params: { query: { type } } })),
    onSuccess: (now) => {
      client.setQueryData(keys.messages(type), now)
      void hasChanged(client, 'messages')
    },
  })
  return (
    <p role="status" className="mb-4 text-note text-ink-2">
      {view.own ? say.messages.itsOwn : view.edits ? say.messages.theWorkspaces : say.messages.asWorkspace}{' '}
      {view.own && view.edits && !changed && (
        <button type="button" className="link" disabled={follow.isPending} onClick={() => follow.mutate()}>
          {say.messages.follow}
        </button>
      )}
      {follow.error && <span className="text-need"> {follow.error.message}</span>}
    </p>
  )
}

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b)

/** How many sentences and words are new, changed or gone. */
function countChanged(before: Draft, after: Draft): number {
  const kept = after.rules.filter((rule) => before.rules.some((was) => same(was, rule)))
  const gone = before.rules.filter((was) => !after.rules.some((rule) => rule.id === was.id))
  const kinds = new Set([...Object.keys(before.words), ...Object.keys(after.words)])
  const reworded = [...kinds].filter((kind) => !same(before.words[kind] ?? {}, after.words[kind] ?? {}))
  const quiet = same(before.quiet, after.quiet) ? 0 : 1
  return after.rules.length - kept.length + gone.length + reworded.length + quiet
}

function useTrial(type: number, draft: Draft, tried: boolean): Schemas['MessagesAhead'] | undefined {
  const still = useDebounced(draft)
  return useQuery({
    queryKey: keys.tried.messages(type, still),
    queryFn: () => need(api.POST('/messages/preview', { params: { query: { type } }, body: still })),
    placeholderData: keepPreviousData,
    staleTime: 0,
    enabled: tried,
  }).data
}

function useSave(type: number, onSaved: (draft: Draft) => void) {
  const client = useQueryClient()
  return useMutation<Value, Refusal, Draft>({
    mutationFn: (body) => need(api.PUT('/messages', { params: { query: { type } }, body })),
    onSuccess: (now) => {
      onSaved({ rules: now.rules, quiet: now.quiet, words: now.words, alsoText: now.alsoText })
      client.setQueryData(keys.messages(type), now)
      void hasChanged(client, 'messages')
    },
  })
}
