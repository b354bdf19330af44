import type { Schemas } from '../../api/client'
import { Button, TextArea, TextField } from '../../kit/kit'
import { type Group, RuleSentences } from '../rules/Rules'
import { Lengths } from './Lengths'
import { OwnHours } from './OwnHours'

type Draft = Schemas['TypeDraft']

interface Props {
  draft: Draft
  unchanged: Draft
  wrong: Record<string, string>
  workspace: Schemas['WorkspaceView']
  onChange: (draft: Draft) => void
}

type Rules = Schemas['TypeRules']

/** What the meeting type is, and its times as sentences with parts to change. */
export function TypeForm({ draft, unchanged, wrong, workspace, onChange }: Props) {
  const { rules } = draft
  const follows = rules.follows ?? []
  const setRule = (change: Partial<Rules>) => onChange({ ...draft, rules: { ...rules, ...change } })
  return (
    <div className="max-w-xl">
      <div className="mb-6 grid gap-3.5">
        <TextField
          label="Name"
          value={draft.name}
          problem={wrong.name}
          onChange={(event) => onChange({ ...draft, name: event.target.value })}
        />
        <TextField
          label="Short address"
          value={draft.slug}
          problem={wrong.slug}
          hint="The end of its page's address: a-z, figures, hyphens."
          onChange={(event) => onChange({ ...draft, slug: event.target.value })}
        />
        <TextArea
          label="Description for clients"
          value={draft.description}
          problem={wrong.description}
          onChange={(event) => onChange({ ...draft, description: event.target.value })}
        />
      </div>
      <h2 className="border-b border-rule-strong pb-1.5">Times</h2>
      <Lengths rules={rules} unchanged={unchanged.rules} wrong={wrong} onChange={setRule} />
      <RuleSentences
        rules={rules}
        unchanged={unchanged.rules}
        wrong={wrong}
        taken={taken(rules)}
        follows={follows}
        // Whatever is changed here is set here.
        onChange={(group, change) => setRule({ ...change, follows: follows.filter((other) => other !== group) })}
        note={(group) => (
          <Follows
            follows={follows.includes(group)}
            theirs={workspace.notes[group] ?? ''}
            onFollow={() => setRule({ ...of(workspace.rules, group), follows: [...follows, group].sort() })}
          />
        )}
      />
      <OwnHours rules={rules} unchanged={unchanged.rules} wrong={wrong} onChange={setRule} />
    </div>
  )
}

/** Where a group's rules come from, and the way back to the workspace's. */
function Follows({ follows, theirs, onFollow }: { follows: boolean; theirs: string; onFollow: () => void }) {
  if (follows) return <p className="text-ink-3">Same as workspace.</p>
  return (
    <p>
      Set here (workspace: {theirs}).{' '}
      <Button kind="text" className="text-note" onClick={onFollow}>
        Follow the workspace
      </Button>
    </p>
  )
}

/** The rules of one group, those left out included. */
function of(rules: Schemas['BookingRules'], group: Group): Partial<Rules> {
  switch (group) {
    case 'buffers':
      return { before: rules.before, after: rules.after, buffersInside: rules.buffersInside }
    case 'step':
      return { step: rules.step, offset: rules.offset, grid: rules.grid }
    case 'notice':
      return { notice: rules.notice, noticeInDays: rules.noticeInDays }
    case 'window':
      return { windowDays: rules.windowDays, windowFirst: rules.windowFirst, windowLast: rules.windowLast }
    case 'limit':
      return { limits: rules.limits }
  }
}

/** "50 + 10 takes an hour of the host and 50 minutes of the client." */
function taken({ duration, before, after }: Rules): string | undefined {
  const whole = duration + before + after
  if (!Number.isFinite(whole) || whole === duration) return undefined
  return `It takes ${whole} minutes of your day; the client sees ${duration}.`
}
