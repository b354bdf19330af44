import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useParams } from 'react-router'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { Ask } from '../../kit/Ask'
import { Need } from '../../kit/kit'
import { countChanges } from '../changes'
import { useType } from '../queries'
import { SaveBar } from '../SaveBar'
import { View } from '../Shell'
import { Undo } from '../Undo'
import { useGo, useUnsaved } from '../unsaved'
import { useDebounced } from '../useDebounced'
import { Foresight } from './Foresight'
import { Ledger } from './Ledger'
import { RoutingForm } from './RoutingForm'

type RoutingView = Schemas['RoutingView']

/** What is edited: how a meeting type's bookings find their hosts, and who may book it. */
export interface Draft {
  rules: Schemas['TypeRouting']
  who: RoutingView['who']
}

/** How a meeting type finds its hosts: one sentence to compose, what it will do, and what it has done. */
export function Routing() {
  const id = Number(useParams().id)
  const type = useType(id)
  const view = useQuery<RoutingView, Refusal>({
    queryKey: ['routing', id],
    queryFn: () => need(api.GET('/types/{id}/routing', { params: { path: { id } } })),
    refetchOnWindowFocus: false,
  })
  const error = type.error ?? view.error
  if (error) return <Need className="m-10">{error.message}</Need>
  if (!view.data || !type.data) return null
  const key = JSON.stringify([view.data.routing, view.data.who])
  return <Editor key={key} type={type.data} view={view.data} />
}

function Editor({ type, view }: { type: Schemas['MeetingType']; view: RoutingView }) {
  const saved: Draft = { rules: view.routing, who: view.who }
  const [draft, setDraft] = useState(saved)
  // What the change is laid over; after somebody else's was told, it is theirs.
  const [version, setVersion] = useState(view.version)
  const go = useGo()
  const client = useQueryClient()
  const still = useDebounced(draft.rules)
  const preview = useQuery<Schemas['Foresight'], Refusal>({
    queryKey: ['routing', 'preview', type.id, still],
    queryFn: () => need(api.POST('/types/{id}/routing/preview', { params: { path: { id: type.id } }, body: still })),
    placeholderData: keepPreviousData,
    staleTime: 0,
  })
  const save = useMutation<RoutingView, Refusal, { accept?: boolean }>({
    mutationFn: ({ accept = false }) =>
      need(
        api.PUT('/types/{id}/routing', {
          params: { path: { id: type.id } },
          body: { routing: draft.rules, who: draft.who, version, accept },
        }),
      ),
    onSuccess: (now) => {
      client.setQueryData(['routing', type.id], now)
      for (const key of ['types', 'type-preview', 'history', 'today', 'board'])
        void client.invalidateQueries({ queryKey: [key] })
    },
    onError: (error) => {
      if (error.kind === 'urn:corrim:problem:changed-meanwhile') setVersion(0)
    },
  })
  const changes = countChanges(saved, draft)
  useUnsaved(changes > 0 && !save.isSuccess)
  const wrong = { ...preview.data?.wrong, ...save.error?.fields }
  const leadsNowhere = save.error?.kind === 'urn:corrim:problem:nothing-open'
  return (
    <View
      title={type.name}
      note="hosts"
      actions={
        changes === 0 ? (
          <>
            <Undo />
            <button type="button" className="link" onClick={() => go(`/types/${type.id}`)}>
              Times
            </button>
          </>
        ) : (
          <SaveBar
            changes={changes}
            saving={save.isPending}
            onBack={() => {
              save.reset()
              setDraft(saved)
            }}
            onSave={() => save.mutate({})}
          />
        )
      }
      aside={<Foresight foresight={preview.data ?? view.foresight} />}
      asideWidth="minmax(0, 1fr)"
    >
      {save.error && !leadsNowhere && Object.keys(save.error.fields).length === 0 && (
        <Need className="mb-4">{save.error.message}</Need>
      )}
      <Ask
        open={leadsNowhere}
        title="Save it anyway?"
        yes="Save, though it leads nowhere"
        no="Keep editing"
        onYes={() => save.mutate({ accept: true })}
        onNo={() => save.reset()}
      >
        {save.error?.message}
      </Ask>
      <RoutingForm
        draft={draft}
        view={view}
        wrong={wrong}
        onChange={(next) => {
          if (save.error?.kind !== 'urn:corrim:problem:changed-meanwhile') save.reset()
          setDraft(next)
        }}
      />
      <Ledger type={type.id} view={view} />
    </View>
  )
}
