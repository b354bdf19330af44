import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { hasChanged, keys } from '../../api/keys'
import { countFields } from '../../edit/changes'
import { useGo } from '../../edit/unsaved'
import { Button, Need, TextField } from '../../kit/kit'
import { say } from '../../say'
import { inTurn, settingsOf, useMe, useTypes, useWorkspace } from '../queries'
import { Unread, View } from '../Shell'
import { Undo } from '../Undo'
import { useDebounced } from '../useDebounced'
import { Colour } from './Colour'
import { Picture } from './Picture'

type Draft = Schemas['Looks']

/** How the workspace's pages look: tried beside them at three widths, kept as a draft, and published when they suit. */
export function LooksView() {
  const workspace = useWorkspace()
  const draft = useQuery<Schemas['LooksDraft'], Refusal>({
    queryKey: keys.looksDraft,
    queryFn: () => need(api.GET('/workspace/looks/draft')),
    staleTime: 0,
  })
  const error = workspace.error ?? draft.error
  if (!workspace.data || !draft.data) return <Unread error={error} />
  const saved = workspace.data.front.looks
  return (
    <Editor
      key={JSON.stringify(saved)}
      workspace={workspace.data}
      tried={draft.data.tried ? draft.data.looks : saved}
    />
  )
}

function Editor({ workspace, tried }: { workspace: Schemas['WorkspaceView']; tried: Draft }) {
  const saved = workspace.front.looks
  const [draft, setDraft] = useState(tried)
  const go = useGo()
  const client = useQueryClient()
  const still = useDebounced(draft)
  const preview = useQuery<Schemas['PageLooks'], Refusal>({
    queryKey: keys.tried.looks(still),
    queryFn: () => need(api.POST('/workspace/looks', { body: still })),
    placeholderData: keepPreviousData,
    retry: false,
  })
  const keep = useMutation<Schemas['LooksDraft'], Refusal, Draft>({
    ...inTurn('looks'),
    mutationFn: (body) => need(api.PUT('/workspace/looks/draft', { body })),
    onSuccess: (kept) => client.setQueryData(keys.looksDraft, kept),
  })
  const kept = useRef(tried)
  useEffect(() => {
    if (still === kept.current) return
    kept.current = still
    keep.mutate(still)
  }, [still, keep.mutate])
  const publish = useMutation<Schemas['WorkspaceView'], Refusal, void>({
    ...inTurn('looks'),
    mutationFn: () => {
      const settings = settingsOf(workspace)
      return need(api.PUT('/workspace', { body: { ...settings, front: { ...settings.front, looks: draft } } }))
    },
    onSuccess: (now) => {
      client.setQueryData<Schemas['LooksDraft']>(keys.looksDraft, { looks: now.front.looks, tried: false })
      client.setQueryData(keys.workspace, now)
      void hasChanged(client, 'looks')
    },
  })
  const set = (change: Partial<Draft>) => {
    publish.reset()
    setDraft({ ...draft, ...change })
  }
  const changes = countFields(saved, draft)
  const wrong = { ...preview.error?.fields, ...publish.error?.fields }
  return (
    <View
      title={say.looks.looks}
      note={say.looks.yourPages}
      actions={
        changes === 0 ? (
          <>
            <Undo />
            <button type="button" className="link" onClick={() => go('/workspace')}>
              {say.looks.theWorkspace}
            </button>
          </>
        ) : (
          <>
            <span className="text-ink-2" role="status">
              {keep.error ? say.looks.notKept(keep.error.message) : say.looks.draftClientsSeeOld}
            </span>
            <Button kind="plain" onClick={() => setDraft(saved)}>
              {say.looks.discardChanges}
            </Button>
            <Button onClick={() => publish.mutate()} disabled={publish.isPending}>
              {say.looks.publishLooks}
            </Button>
          </>
        )
      }
      aside={<Previews looks={preview.data} published={!workspace.front.unpublished} />}
      asideWidth="minmax(0, 2.1fr)"
    >
      {publish.error && <Need className="mb-3">{publish.error.message}</Need>}
      <div className="grid max-w-md grid-cols-[minmax(0,1fr)] gap-5">
        <Colour
          label={say.looks.colourWhatCanPressed}
          none={say.looks.corrimsOwn}
          colour={draft.colour}
          tones={preview.data?.light}
          problem={wrong['front.looks.colour']}
          onChange={(colour) => set({ colour })}
        />
        <Picture label={say.looks.logo} hash={draft.logo} onChange={(logo) => set({ logo })} />
        <Picture label={say.looks.banner} hash={draft.banner} onChange={(banner) => set({ banner })} />
        <TextField
          label={say.looks.buttonBooksBeforeTime}
          placeholder={say.looks.book}
          value={draft.book}
          problem={wrong['front.looks.book']}
          onChange={(event) => set({ book: event.target.value })}
        />
        <TextField
          label={say.looks.buttonAsksTime}
          placeholder={say.looks.ask}
          value={draft.ask}
          problem={wrong['front.looks.ask']}
          onChange={(event) => set({ ask: event.target.value })}
        />
        <p className="text-note text-ink-2">
          {say.looks.yourWelcomeTextStands}{' '}
          <button type="button" className="link" onClick={() => go('/workspace')}>
            {say.looks.workspace}
          </button>
          {say.looks.aboutYou}
        </p>
      </div>
    </View>
  )
}

const widths = [
  [say.looks.phone, 390, 0.62],
  [say.looks.tablet, 820, 0.42],
  [say.looks.desk, 1280, 0.42],
] as const

/** The workspace's page as clients with different devices would see it, in the draft's looks. */
function Previews({ looks, published }: { looks: Schemas['PageLooks'] | undefined; published: boolean }) {
  const workspace = useMe().data?.person?.workspace
  const type = useTypes(true).data?.[0]
  // As long as the workspace's page isn't published, a type's page stands for it.
  const path = published || !type ? `/p/${workspace}` : type.path
  return (
    <section aria-label={say.looks.yourPageThreeWidths} className="flex flex-wrap items-start gap-x-6 gap-y-5">
      {widths.map(([name, width, scale]) => (
        <Preview key={name} name={name} path={path} width={width} scale={scale} looks={looks} />
      ))}
    </section>
  )
}

interface PreviewProps {
  name: string
  path: string
  width: number
  scale: number
  looks: Schemas['PageLooks'] | undefined
}

const tall = 760

function Preview({ name, path, width, scale, looks }: PreviewProps) {
  const frame = useRef<HTMLIFrameElement>(null)
  useEffect(() => {
    const tell = () => looks && frame.current?.contentWindow?.postMessage({ looks }, location.origin)
    tell()
    // A frame says when it is ready to hear.
    const hear = (event: MessageEvent) => event.source === frame.current?.contentWindow && tell()
    addEventListener('message', hear)
    return () => removeEventListener('message', hear)
  }, [looks])
  return (
    <figure className={width > 400 ? 'max-lg:hidden' : ''}>
      <figcaption className="mb-1 text-note text-ink-2">{say.looks.wide(name, width)}</figcaption>
      <div className="overflow-hidden border border-rule-strong" style={{ width: width * scale, height: tall * scale }}>
        <iframe
          ref={frame}
          title={say.looks.yourPageWide(width)}
          src={path}
          className="origin-top-left"
          style={{ width, height: tall, transform: `scale(${scale})` }}
        />
      </div>
    </figure>
  )
}
