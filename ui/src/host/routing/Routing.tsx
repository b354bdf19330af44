import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useParams } from 'react-router'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { hasChanged, keys } from '../../api/keys'
import { countChanges, namedChanges } from '../../edit/changes'
import { Meanwhile } from '../../edit/Meanwhile'
import { SaveBar } from '../../edit/SaveBar'
import { useUnsaved } from '../../edit/unsaved'
import { changedMeanwhile, useEditor, useFirstFault } from '../../edit/useEditor'
import { Ask } from '../../kit/Ask'
import { Need } from '../../kit/kit'
import { say, toldOf } from '../../say'
import { useType } from '../queries'
import { Unread } from '../Shell'
import { TypeFrame } from '../types/TypeFrame'
import { useDebounced } from '../useDebounced'
import { type Draft, fieldWords } from './draft'
import { Foresight } from './Foresight'
import { Ledger } from './Ledger'
import { RoutingForm } from './RoutingForm'

type RoutingView = Schemas['RoutingView']

/** How a meeting type finds its hosts: one sentence to compose, what it will do, and what it has done. */
export function Routing() {
  const id = Number(useParams().id)
  const type = useType(id)
  const view = useQuery<RoutingView, Refusal>({
    queryKey: keys.routing(id),
    queryFn: () => need(api.GET('/types/{id}/routing', { params: { path: { id } } })),
    refetchOnWindowFocus: false,
  })
  const error = type.error ?? view.error
  if (!view.data || !type.data) return <Unread error={error} />
  return <Editor key={id} type={type.data} view={view.data} />
}

function Editor({ type, view }: { type: Schemas['MeetingType']; view: RoutingView }) {
  const editor = useEditor<Draft>({ rules: view.routing, who: view.who })
  const { draft } = editor
  const client = useQueryClient()
  const still = useDebounced(draft.rules)
  const preview = useQuery<Schemas['Foresight'], Refusal>({
    queryKey: keys.tried.routing(type.id, still),
    queryFn: () => need(api.POST('/types/{id}/routing/preview', { params: { path: { id: type.id } }, body: still })),
    placeholderData: keepPreviousData,
    staleTime: 0,
  })
  const save = useMutation<RoutingView, Refusal, { accept?: boolean }>({
    mutationFn: ({ accept = false }) =>
      need(
        api.PUT('/types/{id}/routing', {
          params: { path: { id: type.id } },
          body: { routing: draft.rules, who: draft.who, version: view.version, accept },
        }),
      ),
    onSuccess: (now) => {
      editor.keep({ rules: now.routing, who: now.who })
      client.setQueryData(keys.routing(type.id), now)
      void hasChanged(client, 'routing')
    },
    onError: (error) => {
      if (error.kind === changedMeanwhile) void client.invalidateQueries({ queryKey: keys.routing(type.id) })
    },
  })
  const changes = countChanges(editor.saved, draft)
  useFirstFault(save.error)
  useUnsaved(changes > 0 && !save.isSuccess, () => save.mutateAsync({}))
  const wrong = { ...toldOf(preview.data?.wrong), ...save.error?.fields }
  const leadsNowhere = save.error?.kind === 'urn:corrim:problem:nothing-open'
  return (
    <TypeFrame
      type={type}
      part={say.types.hosts}
      changed={changes > 0}
      bar={
        <SaveBar
          changes={changes}
          save={save}
          what={whatChanged(editor.saved, draft)}
          faults={Object.keys(wrong).length}
          discard={editor.discard}
          onSave={() => save.mutate({})}
        />
      }
      aside={<Foresight foresight={preview.data ?? view.foresight} />}
      asideWidth="minmax(0, 1fr)"
    >
      <Meanwhile conflicts={editor.conflicts} name={nameOf} onTheirs={editor.discard} />
      {save.error && !leadsNowhere && Object.keys(save.error.fields).length === 0 && (
        <Need className="mb-4">{save.error.message}</Need>
      )}
      <Ask
        open={leadsNowhere}
        title={say.routing.saveAnyway}
        yes={say.routing.saveThoughLeadsNowhere}
        no={say.routing.keepEditing}
        busy={save.isPending}
        onYes={() => save.mutate({ accept: true })}
        onNo={() => save.reset()}
      >
        {save.error?.message}
      </Ask>
      <RoutingForm
        draft={draft}
        shared={(type.rules.seats ?? 0) > 1}
        view={view}
        wrong={wrong}
        onChange={(next) => {
          save.reset()
          editor.set(next)
        }}
      />
      <Ledger type={type.id} view={view} />
    </TypeFrame>
  )
}

/** What is edited is the rules, one by one, and who may book. */
function nameOf(field: string): string {
  return fieldWords[field.replace('rules.', '') as keyof typeof fieldWords] ?? say.routing.changedWhoMayBook
}

function whatChanged(before: Draft, after: Draft): string[] {
  const who = before.who === after.who ? [] : [say.routing.changedWhoMayBook]
  return [...namedChanges(before.rules, after.rules, fieldWords), ...who]
}
