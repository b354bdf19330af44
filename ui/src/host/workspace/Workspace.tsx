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
import { say, told, toldOf } from '../../say'
import { clock, shortDate, wallClock, weekdaysFromSunday } from '../../time/time'
import { Bookings } from '../Bookings'
import { Effects } from '../Effects'
import { settingsOf, useMe, useWorkspace } from '../queries'
import { changedRules, ruleName } from '../rules/changed'
import { Choice, pairs, partLook, Sentence } from '../rules/parts'
import { RuleSentences } from '../rules/Rules'
import { Unread, View } from '../Shell'
import { Undo } from '../Undo'
import { useAnchor } from '../useAnchor'
import { useDebounced } from '../useDebounced'
import { FrontForm, frontWords } from './FrontForm'
import { Holidays } from './Holidays'

type Settings = Schemas['Workspace']

export function Workspace() {
  const workspace = useWorkspace()
  if (!workspace.data) return <Unread error={workspace.error} />
  return <SettingsEditor view={workspace.data} />
}

/** What the fields are called that are neither of the rules nor read by clients. */
const fieldWords: Record<string, string> = {
  name: say.workspace.name,
  zone: say.workspace.workspacesTimeZone,
  firstWeekday: say.workspace.firstDayWeek,
  zones: say.workspace.whoseClockClientsSee,
  shareBuffers: say.workspace.neighbouringBuffers,
}

function fieldName(field: string, groups: Schemas['WorkspaceView']['groups']): string {
  if (field.startsWith('front.')) return frontWords[field.replace('front.', '') as keyof Schemas['Front']]
  return fieldWords[field] ?? ruleName(field.replace('rules.', ''), groups)
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
  const wrong = { ...toldOf(trial?.wrong), ...save.error?.fields }
  return (
    <View
      title={say.workspace.workspace}
      actions={
        <>
          <Undo unsaved={count > 0} />
          {count === 0 && (
            <>
              <button type="button" className="link" onClick={() => go('/share/workspace/0')}>
                {say.workspace.share}
              </button>
              <button type="button" className="link" onClick={() => go('/workspace/looks')}>
                {say.workspace.looksYourPages}
              </button>
            </>
          )}
        </>
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
      <Meanwhile conflicts={editor.conflicts} name={(field) => fieldName(field, groups)} onTheirs={editor.discard} />
      {save.error && <Need className="mb-4">{save.error.message}</Need>}
      <div className="max-w-xl" key={editor.round}>
        <TextField
          label={say.workspace.name}
          value={draft.name}
          problem={wrong.name}
          onChange={(event) => set({ name: event.target.value })}
        />
        <h2 className="mt-6 border-b border-rule-strong pb-1.5">{say.workspace.clocksWeeks}</h2>
        <Clocks draft={draft} saved={saved} wrong={wrong} onChange={set} />
        <Holidays calendars={view.holidayCalendars} />
        <h2 className="mt-6 border-b border-rule-strong pb-1.5">{say.workspace.rulesMeetingTypesFollow}</h2>
        <RuleSentences
          groups={groups}
          rules={draft.rules}
          unchanged={saved.rules}
          wrong={wrong}
          onChange={(_, change) => set({ rules: { ...draft.rules, ...change } })}
        />
        <Sentence problems={[]} note={say.workspace.meetingsThemselvesNeverOverlap}>
          {say.workspace.buffersNeighbouringBookings}{' '}
          <Choice
            label={say.workspace.neighbouringBuffers}
            value={draft.shareBuffers ? 'share' : 'whole'}
            options={pairs({ whole: say.workspace.eachKeptWhole, share: say.workspace.mayShareTime })}
            changed={draft.shareBuffers !== saved.shareBuffers}
            onChange={(chosen) => set({ shareBuffers: chosen === 'share' })}
          />
          .
        </Sentence>
        <FrontForm front={draft.front} wrong={wrong} onChange={(front) => set({ front })} />
      </div>
    </View>
  )
}

const shown = pairs<Settings['zones']>({
  client: say.workspace.ownClock,
  workspace: say.workspace.workspaceClock,
  hidden: say.workspace.noZone,
})
const shownNotes = {
  client: say.workspace.theirZoneRecognisedCan,
  workspace: say.workspace.workspacesWhoseClientsAll,
  hidden: say.workspace.everybodyLocalNoPage,
}

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
        {say.workspace.workspaceIsIn}{' '}
        <select
          aria-label={say.workspace.workspacesTimeZone}
          className={partLook(draft.zone !== saved.zone, wrong.zone !== undefined)}
          value={draft.zone}
          onChange={(event) => onChange({ zone: event.target.value })}
        >
          <ZoneOptions own={draft.zone} />
        </select>
        {say.workspace.weeksBegin}{' '}
        <Choice
          label={say.workspace.firstDayWeek}
          value={String(draft.firstWeekday)}
          options={weekdaysFromSunday().map((name, i) => [String(i), name])}
          changed={draft.firstWeekday !== saved.firstWeekday}
          onChange={(chosen) => onChange({ firstWeekday: Number(chosen) })}
        />
        .
      </Sentence>
      <Sentence problems={[]} note={shownNotes[draft.zones]}>
        {say.workspace.clientsSeeTimes}{' '}
        <Choice
          label={say.workspace.whoseClockClientsSee}
          value={draft.zones}
          options={shown}
          changed={draft.zones !== saved.zones}
          onChange={(zones) => onChange({ zones })}
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
          <p className="pt-2 text-ink-2">{say.workspace.leavesAllOpenTimes}</p>
        )}
        <Effects effects={trial?.effects ?? []} />
        <Bookings
          title={say.workspace.comingBookingsWouldLie(trial?.outside.length ?? 0)}
          bookings={trial?.outside ?? []}
          zone={zone}
        />
      </>
    )
  return (
    <>
      <h2 className="pt-1">{say.workspace.whoChangedWhat}</h2>
      {changes.length === 0 && <p className="mt-2 text-ink-2">{say.workspace.nobodyHasChangedSetting}</p>}
      <ul className="mt-2">
        {changes.map((change) => (
          <li key={change.id} className="border-t border-rule py-2 text-note">
            <p className={change.undone ? 'text-ink-3 line-through' : ''}>{told(change.label)}</p>
            <p className="text-small text-ink-2">
              {change.person}, {shortDate(wallClock(new Date(change.at), zone).date)} {clock(new Date(change.at), zone)}
              {change.undone && say.workspace.undone}
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
