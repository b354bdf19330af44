import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { useParams, useSearchParams } from 'react-router'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { hasChanged, keys } from '../../api/keys'
import { changedFields, countChanges } from '../../edit/changes'
import { Meanwhile } from '../../edit/Meanwhile'
import { SaveBar } from '../../edit/SaveBar'
import { useGo, useGoSaved, useUnsaved } from '../../edit/unsaved'
import { changedMeanwhile, useEditor, useFirstFault } from '../../edit/useEditor'
import { Ask } from '../../kit/Ask'
import { Need } from '../../kit/kit'
import { say, toldOf } from '../../say'
import { useMe, useType, useWorkspace } from '../queries'
import { changedRules, ruleName } from '../rules/changed'
import { Unread, View } from '../Shell'
import { useDebounced } from '../useDebounced'
import { useKey } from '../useKey'
import { Consequence } from './Consequence'
import { reasonsPath } from './Reasons'
import { TypeForm } from './TypeForm'
import { TypeFrame } from './TypeFrame'

type Draft = Schemas['TypeDraft']

/** A new meeting type follows the workspace in everything. */
function blank({ rules, groups }: Schemas['WorkspaceView']): Draft {
  const follows = groups.map((group) => group.name).sort()
  return { name: '', slug: '', description: '', rules: { ...rules, duration: 30, follows } }
}

/** One meeting type: its editor, and beside it what the unsaved change does to the coming days. */
export function TypePage() {
  const { id } = useParams()
  const type = useType(Number(id) || 0)
  const workspace = useWorkspace()
  const error = type.error ?? workspace.error
  if (!workspace.data || (!type.data && id !== 'new')) return <Unread error={error} />
  return <TypeEditor key={id} type={type.data} workspace={workspace.data} />
}

function draftOf({ name, slug, description, rules }: Draft): Draft {
  return { name, slug, description, rules }
}

interface EditorProps {
  type: Schemas['MeetingType'] | undefined
  workspace: Schemas['WorkspaceView']
}

function TypeEditor({ type: saved, workspace }: EditorProps) {
  const editor = useEditor(saved ? draftOf(saved) : blank(workspace))
  const { draft, saved: unchanged } = editor
  const go = useGo()
  const [host, setHost] = useState(0)
  const preview = usePreview(saved?.id ?? 0, draft, host)
  const save = useSave(saved, (now) => editor.keep(draftOf(now)))
  const changes = countChanges(unchanged, draft)
  useFirstFault(save.error)
  useRuleInFocus()
  useUnsaved(changes > 0 && !save.isSuccess, () => save.mutateAsync({ draft }))
  const zone = useMe().data?.person?.zone ?? 'UTC'
  const today = preview.data?.days[0]?.date
  useKey('e', () => saved && today && go(reasonsPath(saved.id, today, { host })))
  const wrong = { ...toldOf(preview.data?.wrong), ...save.error?.fields }
  const closes = save.error?.kind === 'urn:corrim:problem:nothing-open'
  // A new type is not told what it lacks before anybody tried to save it.
  const shown =
    saved || save.error
      ? wrong
      : Object.fromEntries(Object.entries(wrong).filter(([field]) => field.startsWith('rules.')))
  const bar = (
    <SaveBar
      changes={changes}
      save={save}
      what={whatChanged(unchanged, draft, workspace.groups)}
      effect={saved && preview.data && <Effect preview={preview.data} />}
      faults={Object.keys(shown).length}
      discard={editor.discard}
      onSave={() => save.mutate({ draft })}
    />
  )
  const aside = <Consequence preview={preview.data} saved={saved} zone={zone} onHost={setHost} />
  const form = (
    <>
      {saved && !saved.edits && <Need className="mb-4">{say.types.youHostTypeCoordinator}</Need>}
      <Meanwhile
        conflicts={editor.conflicts}
        name={(field) => fieldWords[field] ?? ruleName(field.replace('rules.', ''), workspace.groups)}
        onTheirs={editor.discard}
      />
      {save.error && !closes && <Need className="mb-4">{save.error.message}</Need>}
      <Ask
        open={closes}
        title={say.types.saveAnyway}
        yes={say.types.saveNothingOpen}
        no={say.types.keepEditing}
        busy={save.isPending}
        onYes={() => save.mutate({ draft, accept: true })}
        onNo={() => save.reset()}
      >
        {save.error?.message}
      </Ask>
      <TypeForm
        key={editor.round}
        draft={draft}
        workspace={workspace}
        unchanged={unchanged}
        wrong={shown}
        onChange={(next) => {
          save.reset()
          editor.set(next)
        }}
      />
    </>
  )
  if (!saved)
    return (
      <View title={draft.name || say.types.newMeetingType} bar={bar} aside={aside} asideWidth={asideWidth}>
        {form}
      </View>
    )
  return (
    <TypeFrame
      type={saved}
      name={draft.name}
      part={say.types.times}
      bar={bar}
      changed={changes > 0}
      aside={aside}
      asideWidth={asideWidth}
    >
      {form}
    </TypeFrame>
  )
}

/** Whoever comes to change one rule (?rule=notice) finds the focus in it. */
function useRuleInFocus() {
  const [search] = useSearchParams()
  const rule = search.get('rule')
  useEffect(() => {
    if (!rule) return
    const sentence = document.querySelector(`[data-rule="${CSS.escape(rule)}"]`)
    sentence?.scrollIntoView({ block: 'center' })
    sentence?.querySelector<HTMLElement>('input, select, button')?.focus()
  }, [rule])
}

const asideWidth = 'minmax(0, 1.22fr)'

/** What of a type was changed, in a few words each: its rules by their groups. */
/** What the fields are called that are no rules. */
const fieldWords: Record<string, string> = {
  name: say.types.changedName,
  slug: say.types.changedShortAddress,
  description: say.types.changedDescription,
}

function whatChanged(before: Draft, after: Draft, groups: Schemas['WorkspaceView']['groups']): string[] {
  return [
    ...changedFields(before, after).flatMap((field) => fieldWords[field] ?? []),
    ...changedRules(before.rules, after.rules, groups),
  ]
}

/** What the change does, in a line. */
function Effect({ preview: { gained, lost, outside } }: { preview: Schemas['TypePreview'] }) {
  const said = [
    gained > 0 && say.types.startsMore(say.types.openStartsCount(gained)),
    lost > 0 && say.types.fewer(say.types.openStartsCount(lost)),
    outside.length > 0 && say.types.comingOutside(outside.length),
  ].filter(Boolean)
  return said.length > 0 ? say.types.inEightWeeks(said.join(', ')) : null
}

function usePreview(saved: number, draft: Draft, host: number) {
  const still = useDebounced(draft)
  return useQuery({
    queryKey: keys.tried.type(saved, still, host),
    queryFn: () => need(api.POST('/types/preview', { params: { query: { saved, host } }, body: still })),
    placeholderData: keepPreviousData,
    staleTime: 0,
  })
}

function useSave(saved: Schemas['MeetingType'] | undefined, onSaved: (type: Schemas['MeetingType']) => void) {
  const client = useQueryClient()
  const go = useGoSaved()
  return useMutation<Schemas['MeetingType'], Refusal, { draft: Draft; accept?: boolean }>({
    mutationFn: ({ draft: body, accept = false }) =>
      saved
        ? need(
            api.PUT('/types/{id}', {
              params: { path: { id: saved.id }, query: { accept, version: saved.version } },
              body,
            }),
          )
        : need(api.POST('/types', { params: { query: { accept } }, body })),
    onError: (error) => {
      if (error.kind === changedMeanwhile) void hasChanged(client, 'type')
    },
    onSuccess: (type) => {
      onSaved(type)
      client.setQueryData(keys.type(type.id), type)
      void hasChanged(client, 'type')
      if (!saved) go(`/types/${type.id}`)
    },
  })
}
