import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useParams } from 'react-router'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { hasChanged, keys } from '../../api/keys'
import { countFields, namedChanges } from '../../edit/changes'
import { Meanwhile } from '../../edit/Meanwhile'
import { SaveBar } from '../../edit/SaveBar'
import { useUnsaved } from '../../edit/unsaved'
import { changedMeanwhile, useEditor, useFirstFault } from '../../edit/useEditor'
import { Need } from '../../kit/kit'
import { say, toldOf } from '../../say'
import { InPageWords } from '../InPageWords'
import { useType } from '../queries'
import { Unread } from '../Shell'
import { TypeFrame } from '../types/TypeFrame'
import { useDebounced } from '../useDebounced'
import { BookingPageForm } from './BookingPageForm'
import { type Draft, fieldWords } from './draft'
import { Preview } from './Preview'

type BookingPageView = Schemas['BookingPageView']

/** How a meeting type meets its clients: what is set, and beside it the form as they see it. */
export function BookingPage() {
  const id = Number(useParams().id)
  const type = useType(id)
  const view = useQuery<BookingPageView, Refusal>({
    queryKey: keys.offer(id),
    queryFn: () => need(api.GET('/types/{id}/booking-page', { params: { path: { id } } })),
    refetchOnWindowFocus: false,
  })
  const error = type.error ?? view.error
  if (!view.data || !type.data) return <Unread error={error} />
  return <Editor key={id} type={type.data} view={view.data} />
}

function Editor({ type, view }: { type: Schemas['MeetingType']; view: BookingPageView }) {
  const { page: _page, wrong: _wrong, version: seen = 0, ...saved } = view
  const editor = useEditor<Draft>(saved)
  const { draft } = editor
  const client = useQueryClient()
  const still = useDebounced(draft)
  const params = { path: { id: type.id } }
  const preview = useQuery<BookingPageView, Refusal>({
    queryKey: keys.tried.offer(type.id, still),
    queryFn: () => need(api.POST('/types/{id}/booking-page/preview', { params, body: still })),
    placeholderData: keepPreviousData,
    staleTime: 0,
  })
  const save = useMutation<BookingPageView, Refusal, void>({
    mutationFn: () => need(api.PUT('/types/{id}/booking-page', { params, body: { ...draft, version: seen } })),
    onSuccess: (now) => {
      const { page: _page, wrong: _wrong, version: _version, ...kept } = now
      editor.keep(kept)
      client.setQueryData(keys.offer(type.id), now)
      void hasChanged(client, 'offer')
    },
    onError: (error) => {
      if (error.kind === changedMeanwhile) void client.invalidateQueries({ queryKey: keys.offer(type.id) })
    },
  })
  const changes = countFields(editor.saved, draft)
  useFirstFault(save.error)
  useUnsaved(changes > 0 && !save.isSuccess, () => save.mutateAsync())
  const wrong = { ...toldOf(preview.data?.wrong), ...save.error?.fields }
  return (
    <TypeFrame
      type={type}
      part={say.types.bookingPage}
      changed={changes > 0}
      bar={
        <SaveBar
          changes={changes}
          save={save}
          what={namedChanges(editor.saved, draft, fieldWords)}
          faults={Object.keys(wrong).length}
          discard={editor.discard}
          onSave={() => save.mutate()}
        />
      }
      aside={
        <InPageWords>
          <Preview page={preview.data?.page ?? view.page} type={type.id} />
        </InPageWords>
      }
      asideWidth="minmax(24rem, 0.72fr)"
    >
      <Meanwhile
        conflicts={editor.conflicts}
        name={(field) => fieldWords[field as keyof Draft]}
        onTheirs={editor.discard}
      />
      {save.error && Object.keys(save.error.fields).length === 0 && <Need className="mb-4">{save.error.message}</Need>}
      <BookingPageForm
        draft={draft}
        page={preview.data?.page ?? view.page}
        wrong={wrong}
        onChange={(change) => {
          save.reset()
          editor.set(change)
        }}
      />
    </TypeFrame>
  )
}
