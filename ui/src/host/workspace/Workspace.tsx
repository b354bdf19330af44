import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { hasChanged, keys } from '../../api/keys'
import { countChanges } from '../../edit/changes'
import { Meanwhile } from '../../edit/Meanwhile'
import { SaveBar } from '../../edit/SaveBar'
import { useGo, useUnsaved } from '../../edit/unsaved'
import { useEditor, useFirstFault } from '../../edit/useEditor'
import { Need, TextField } from '../../kit/kit'
import { ZoneOptions } from '../../kit/ZoneOptions'
import { clock, shortDate, wallClock } from '../../time/time'
import { Bookings } from '../Bookings'
import { Effects } from '../Effects'
import { settingsOf, useMe, useWorkspace } from '../queries'
import { changedRules } from '../rules/changed'
import { Choice, partLook, Sentence } from '../rules/parts'
import { RuleSentences } from '../rules/Rules'
import { View } from '../Shell'
import { Undo } from '../Undo'
import { useAnchor } from '../useAnchor'
import { useDebounced } from '../useDebounced'
import { FrontForm } from './FrontForm'
import { Holidays } from './Holidays'

type Settings = Schemas['Workspace']

export function Workspace() {
  const workspace = useWorkspace()
  if (workspace.error) return <Need className="m-10">{workspace.error.message}</Need>
  if (!workspace.data) return null
  return <SettingsEditor view={workspace.data} />
}

/** What holds for the whole workspace, and the rules that meeting types follow until they set their own. */
function SettingsEditor({ view }: { view: Schemas['WorkspaceView'] }) {
  const { groups, changes } = view
  const editor = useEditor(settingsOf(view))
  const { draft, saved } = editor
  const trial = useTrial(draft)
  const go = useGo()
  const save = useSave(editor.keep)
  const set = (change: Partial<Settings>) => {
    save.reset()
    editor.set(change)
  }
  useFirstFault(save.error)
  const count = countChanges(saved, draft)
  useUnsaved(count > 0, () => save.mutateAsync(draft))
  useAnchor(true)
  const zone = useMe().data?.person?.zone ?? 'UTC'
  const wrong = { ...trial?.wrong, ...save.error?.fields }
  return (
    <View
      title="Workspace"
      actions={
        count === 0 && (
          <>
            <Undo />
            <button type="button" className="link" onClick={() => go('/share/workspace/0')}>
              Share
            </button>
            <button type="button" className="link" onClick={() => go('/workspace/looks')}>
              Looks of your pages
            </button>
          </>
        )
      }
      bar={
        <SaveBar
          changes={count}
          save={save}
          what={changedRules(saved.rules, draft.rules, groups)}
          faults={Object.keys(wrong).length}
          discard={editor.discard}
          onSave={() => save.mutate(draft)}
        />
      }
      aside={<Aside changed={count > 0} trial={trial} changes={changes} zone={zone} />}
      asideWidth="27rem"
    >
      <Meanwhile conflicts={editor.conflicts} onTheirs={editor.discard} />
      {save.error && <Need className="mb-4">{save.error.message}</Need>}
      <div className="max-w-xl" key={editor.round}>
        <TextField
          label="Name"
          value={draft.name}
          problem={wrong.name}
          onChange={(event) => set({ name: event.target.value })}
        />
        <h2 className="mt-6 border-b border-rule-strong pb-1.5">Clocks and weeks</h2>
        <Clocks draft={draft} saved={saved} wrong={wrong} onChange={set} />
        <Holidays calendars={view.holidayCalendars} />
        <h2 className="mt-6 border-b border-rule-strong pb-1.5">Rules that meeting types follow</h2>
        <RuleSentences
          groups={groups}
          rules={draft.rules}
          unchanged={saved.rules}
          wrong={wrong}
          onChange={(_, change) => set({ rules: { ...draft.rules, ...change } })}
        />
        <Sentence problems={[]} note="Meetings themselves never overlap another’s buffers.">
          Buffers of neighbouring bookings{' '}
          <Choice
            label="Neighbouring buffers"
            value={draft.shareBuffers ? 'may share time' : 'are each kept whole'}
            options={['are each kept whole', 'may share time']}
            changed={draft.shareBuffers !== saved.shareBuffers}
            onChange={(chosen) => set({ shareBuffers: chosen === 'may share time' })}
          />
          .
        </Sentence>
        <FrontForm front={draft.front} wrong={wrong} onChange={(front) => set({ front })} />
      </div>
    </View>
  )
}

const shown = {
  'on their own clock': 'client',
  'on the workspace’s clock': 'workspace',
  'without any zone': 'hidden',
} as const
const shownNotes = {
  client: 'Their zone is recognised and can be changed; your clock stands beside it.',
  workspace: 'For workspaces whose clients all come to one place.',
  hidden: 'Everybody is local: no page and no mail speaks of zones.',
}
const weekdays = ['Sunday', 'Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday']

interface ClocksProps {
  draft: Settings
  saved: Settings
  wrong: Record<string, string>
  onChange: (change: Partial<Settings>) => void
}

function Clocks({ draft, saved, wrong, onChange }: ClocksProps) {
  return (
    <>
      <Sentence problems={wrong.zone ? [wrong.zone] : []}>
        The workspace is in{' '}
        <select
          aria-label="The workspace’s time zone"
          className={partLook(draft.zone !== saved.zone, wrong.zone !== undefined)}
          value={draft.zone}
          onChange={(event) => onChange({ zone: event.target.value })}
        >
          <ZoneOptions own={draft.zone} />
        </select>
        ; weeks begin on{' '}
        <Choice
          label="First day of the week"
          value={weekdays[draft.firstWeekday] ?? ''}
          options={weekdays}
          changed={draft.firstWeekday !== saved.firstWeekday}
          onChange={(chosen) => onChange({ firstWeekday: weekdays.indexOf(chosen) })}
        />
        .
      </Sentence>
      <Sentence problems={[]} note={shownNotes[draft.zones]}>
        Clients see times{' '}
        <Choice
          label="Whose clock clients see"
          value={Object.entries(shown).find(([, zones]) => zones === draft.zones)?.[0] ?? ''}
          options={Object.keys(shown)}
          changed={draft.zones !== saved.zones}
          onChange={(chosen) => onChange({ zones: shown[chosen as keyof typeof shown] })}
        />
        .
      </Sentence>
    </>
  )
}

interface AsideProps {
  changed: boolean
  trial: Schemas['WorkspaceTrial'] | undefined
  changes: Schemas['WorkspaceChange'][]
  zone: string
}

/** What the unsaved change does to everybody's meeting types; else who changed what last. */
function Aside({ changed, trial, changes, zone }: AsideProps) {
  if (changed)
    return (
      <>
        {trial?.effects.length === 0 && trial.outside.length === 0 && (
          <p className="pt-2 text-ink-2">This leaves all open times as they are.</p>
        )}
        <Effects effects={trial?.effects ?? []} />
        <Bookings
          title={`${trial?.outside.length} of the coming bookings would lie outside the rules; they stay`}
          bookings={trial?.outside ?? []}
          zone={zone}
        />
      </>
    )
  return (
    <>
      <h2 className="pt-1">Who changed what</h2>
      {changes.length === 0 && <p className="mt-2 text-ink-2">Nobody has changed a setting yet.</p>}
      <ul className="mt-2">
        {changes.map((change) => (
          <li key={change.id} className="border-t border-rule py-2 text-note">
            <p className={change.undone ? 'text-ink-3 line-through' : ''}>{change.label}</p>
            <p className="text-small text-ink-2">
              {change.person}, {shortDate(wallClock(new Date(change.at), zone).date)} {clock(new Date(change.at), zone)}
              {change.undone && ' · undone'}
            </p>
          </li>
        ))}
      </ul>
    </>
  )
}

function useTrial(draft: Settings): Schemas['WorkspaceTrial'] | undefined {
  const still = useDebounced(draft)
  return useQuery({
    queryKey: keys.tried.workspace(still),
    queryFn: () => need(api.POST('/workspace/preview', { body: still })),
    placeholderData: keepPreviousData,
    staleTime: 0,
  }).data
}

function useSave(onSaved: (settings: Settings) => void) {
  const client = useQueryClient()
  return useMutation<Schemas['WorkspaceView'], Refusal, Settings>({
    mutationFn: (body) => need(api.PUT('/workspace', { body })),
    onSuccess: (saved) => {
      onSaved(settingsOf(saved))
      client.setQueryData(keys.workspace, saved)
      void hasChanged(client, 'workspace')
    },
  })
}
