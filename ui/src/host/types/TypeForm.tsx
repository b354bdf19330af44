import type { Schemas } from '../../api/client'
import { Button, TextArea, TextField } from '../../kit/kit'
import { say, told } from '../../say'
import type { Rules } from '../rules/parts'
import { type Group, RuleSentences } from '../rules/Rules'
import { Lengths } from './Lengths'
import { OwnHours } from './OwnHours'
import { Seats } from './Seats'

type Draft = Schemas['TypeDraft']

interface Props {
  draft: Draft
  unchanged: Draft
  wrong: Record<string, string>
  workspace: Schemas['WorkspaceView']
  onChange: (draft: Draft) => void
}

/** What the meeting type is, and its times as sentences with parts to change. */
export function TypeForm({ draft, unchanged, wrong, workspace, onChange }: Props) {
  const { rules } = draft
  const follows = rules.follows ?? []
  const setRule = (change: Partial<Schemas['TypeRules']>) => onChange({ ...draft, rules: { ...rules, ...change } })
  return (
    <div className="max-w-xl">
      <div className="mb-6 grid gap-3.5">
        <TextField
          label={say.types.name}
          value={draft.name}
          problem={wrong.name}
          onChange={(event) => onChange({ ...draft, name: event.target.value })}
        />
        <TextField
          label={say.types.shortAddress}
          value={draft.slug}
          problem={wrong.slug}
          hint={say.types.endPagesAddress}
          onChange={(event) => onChange({ ...draft, slug: event.target.value })}
        />
        <TextArea
          label={say.types.descriptionClients}
          value={draft.description}
          problem={wrong.description}
          onChange={(event) => onChange({ ...draft, description: event.target.value })}
        />
      </div>
      <h2 className="border-b border-rule-strong pb-1.5">{say.types.times}</h2>
      <Lengths rules={rules} unchanged={unchanged.rules} wrong={wrong} onChange={setRule} />
      <Seats rules={rules} unchanged={unchanged.rules} wrong={wrong} onChange={setRule} />
      <RuleSentences
        rules={rules}
        unchanged={unchanged.rules}
        wrong={wrong}
        groups={workspace.groups}
        follows={follows}
        // Whatever is changed here is set here.
        onChange={(group, change) => setRule({ ...change, follows: follows.filter((other) => other !== group.name) })}
        note={(group) => (
          <Follows
            follows={follows.includes(group.name)}
            theirs={told(group.note)}
            onFollow={() => setRule({ ...of(workspace.rules, group), follows: [...follows, group.name].sort() })}
          />
        )}
      />
      <OwnHours rules={rules} unchanged={unchanged.rules} wrong={wrong} onChange={setRule} />
    </div>
  )
}

/** Where a group's rules come from, and the way back to the workspace's. */
function Follows({ follows, theirs, onFollow }: { follows: boolean; theirs: string; onFollow: () => void }) {
  if (follows) return <p className="text-ink-3">{say.types.sameWorkspace}</p>
  return (
    <p>
      {say.types.setHereWorkspace(theirs)}{' '}
      <Button kind="text" className="text-note" onClick={onFollow}>
        {say.types.followWorkspace}
      </Button>
    </p>
  )
}

/** The rules of one group, those left out included. */
function of(rules: Rules, { fields }: Group): Partial<Rules> {
  return Object.fromEntries(fields.map((field) => [field, rules[field as keyof Rules]]))
}
