import type { ReactNode } from 'react'
import type { Schemas } from '../../api/client'
import { TextArea, TextField } from '../../kit/kit'
import type { Draft } from './TypePage'

interface Props {
  draft: Draft
  unchanged: Draft
  wrong: Record<string, string>
  onChange: (draft: Draft) => void
}

type Rules = Schemas['TypeRules']

/** What the meeting type is, and its times as sentences with parts to change. */
export function TypeForm({ draft, unchanged, wrong, onChange }: Props) {
  const { rules } = draft
  const setRule = (change: Partial<Rules>) => onChange({ ...draft, rules: { ...rules, ...change } })
  const number = (field: keyof Rules & ('duration' | 'before' | 'after' | 'step' | 'windowDays'), label: string) => (
    <NumberPart
      label={label}
      value={rules[field]}
      changed={rules[field] !== unchanged.rules[field]}
      wrong={wrong[`rules.${field}`] !== undefined}
      onChange={(value) => setRule({ [field]: value })}
    />
  )
  const problems = (...fields: string[]) =>
    fields.map((field) => wrong[`rules.${field}`]).filter((text) => text !== undefined)
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
      <Sentence note={taken(rules)} problems={problems('duration', 'before', 'after')}>
        It lasts {number('duration', 'Length in minutes')} minutes. {number('before', 'Buffer before in minutes')}{' '}
        minutes before and {number('after', 'Buffer after in minutes')} after are kept free.
      </Sentence>
      <Sentence problems={problems('step')}>
        It can start every {number('step', 'Start step in minutes')} minutes on the clock.
      </Sentence>
      <Sentence
        problems={problems('notice', 'windowDays')}
        note={rules.windowDays === 0 ? '0 days ahead is without end.' : undefined}
      >
        Not sooner than{' '}
        <NoticePart
          rules={rules}
          unchanged={unchanged.rules}
          wrong={wrong['rules.notice'] !== undefined}
          onChange={setRule}
        />{' '}
        from now, and up to {number('windowDays', 'Booking window in days')} days ahead.
      </Sentence>
    </div>
  )
}

/** "50 + 10 takes an hour of the host and 50 minutes of the client." */
function taken({ duration, before, after }: Rules): string | undefined {
  const whole = duration + before + after
  if (!Number.isFinite(whole) || whole === duration) return undefined
  return `It takes ${whole} minutes of your day; the client sees ${duration}.`
}

function Sentence({
  children,
  note,
  problems,
}: {
  children: ReactNode
  note?: string | undefined
  problems: string[]
}) {
  return (
    <div className="border-b border-rule py-3.5">
      <p className="text-[16.5px] leading-[2]">{children}</p>
      {problems.map((problem) => (
        <p key={problem} role="alert" className="text-note text-need">
          {problem}
        </p>
      ))}
      {note && <p className="text-note text-ink-2">{note}</p>}
    </div>
  )
}

/** A part of a sentence that can be changed; a changed one is tinted. */
function partLook(changed: boolean, wrong: boolean): string {
  return `border-0 border-b px-1.5 py-0.5 text-center leading-snug font-semibold figures ${wrong ? 'border-need text-need' : 'border-ink'} ${changed ? 'bg-act-soft text-act' : 'bg-sheet'}`
}

interface NumberPartProps {
  label: string
  value: number
  changed: boolean
  wrong: boolean
  onChange: (value: number) => void
}

function NumberPart({ label, value, changed, wrong, onChange }: NumberPartProps) {
  return (
    <input
      type="number"
      inputMode="numeric"
      aria-label={label}
      aria-invalid={wrong || undefined}
      className={`number ${partLook(changed, wrong)}`}
      style={{ width: `${Math.max(2, String(value).length) + 2}ch` }}
      value={value}
      min={0}
      onChange={(event) => onChange(Math.round(event.target.valueAsNumber) || 0)}
    />
  )
}

/** Units that a notice can be told in; all but days are kept in minutes. */
const units = { minutes: 1, hours: 60, 'whole days': 0 }
type Unit = keyof typeof units

function unitOf(rules: Rules): Unit {
  if (rules.noticeInDays) return 'whole days'
  return rules.notice % 60 === 0 ? 'hours' : 'minutes'
}

function NoticePart({
  rules,
  unchanged,
  wrong,
  onChange,
}: {
  rules: Rules
  unchanged: Rules
  wrong: boolean
  onChange: (change: Partial<Rules>) => void
}) {
  const unit = unitOf(rules)
  const shown = unit === 'hours' ? rules.notice / 60 : rules.notice
  const changed = rules.notice !== unchanged.notice || rules.noticeInDays !== unchanged.noticeInDays
  const set = (amount: number, as: Unit) =>
    onChange({ notice: amount * (units[as] || 1), noticeInDays: as === 'whole days' })
  return (
    <span className="whitespace-nowrap">
      <NumberPart
        label="Notice"
        value={shown}
        changed={changed}
        wrong={wrong}
        onChange={(amount) => set(amount, unit)}
      />{' '}
      <select
        aria-label="Unit of the notice"
        className={partLook(changed, wrong)}
        value={unit}
        onChange={(event) => set(shown, event.target.value as Unit)}
      >
        {Object.keys(units).map((name) => (
          <option key={name}>{name}</option>
        ))}
      </select>
    </span>
  )
}
