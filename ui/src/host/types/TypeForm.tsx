import type { ReactNode } from 'react'
import type { Schemas } from '../../api/client'
import { TextArea, TextField } from '../../kit/kit'
import { addDays } from '../../time/time'
import { Limits } from './Limits'
import { Choice, NumberPart, partLook, Sentence } from './parts'
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
  const number = (
    field: keyof Rules & ('duration' | 'before' | 'after' | 'step' | 'offset' | 'windowDays'),
    label: string,
  ) => (
    <NumberPart
      label={label}
      value={rules[field] ?? 0}
      changed={(rules[field] ?? 0) !== (unchanged.rules[field] ?? 0)}
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
      <Sentence problems={[]}>
        Buffers{' '}
        <Choice
          label="Buffers and hours"
          value={rules.buffersInside ? 'stay inside' : 'may reach past'}
          options={['may reach past', 'stay inside']}
          changed={Boolean(rules.buffersInside) !== Boolean(unchanged.rules.buffersInside)}
          onChange={(chosen) => setRule({ buffersInside: chosen === 'stay inside' })}
        />{' '}
        the open hours.
      </Sentence>
      <Sentence problems={problems('step', 'offset')} note={gridNotes[rules.grid ?? 'clock']}>
        It can start every {number('step', 'Start step in minutes')} minutes{' '}
        <GridPart rules={rules} unchanged={unchanged.rules} onChange={setRule} />
        {rules.grid !== 'opening' && <>, counted from {number('offset', 'Offset in minutes')} minutes past midnight</>}.
      </Sentence>
      <Sentence problems={problems('notice')}>
        Not sooner than{' '}
        <NoticePart
          rules={rules}
          unchanged={unchanged.rules}
          wrong={wrong['rules.notice'] !== undefined}
          onChange={setRule}
        />{' '}
        from now.
      </Sentence>
      <Sentence problems={problems('windowDays', 'windowFirst')}>
        It can be booked{' '}
        <WindowPart rules={rules} unchanged={unchanged.rules} onChange={setRule}>
          {number('windowDays', 'Booking window in days')}
        </WindowPart>
        .
      </Sentence>
      <Limits rules={rules} unchanged={unchanged.rules} wrong={wrong} onChange={setRule} />
    </div>
  )
}

/** "50 + 10 takes an hour of the host and 50 minutes of the client." */
function taken({ duration, before, after }: Rules): string | undefined {
  const whole = duration + before + after
  if (!Number.isFinite(whole) || whole === duration) return undefined
  return `It takes ${whole} minutes of your day; the client sees ${duration}.`
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
      <Choice
        label="Unit of the notice"
        value={unit}
        options={Object.keys(units)}
        changed={changed}
        onChange={(chosen) => set(shown, chosen as Unit)}
      />
    </span>
  )
}

const grids = { 'on the clock': 'clock', 'from each opening': 'opening', 'packed without gaps': 'packed' } as const

const gridNotes = {
  clock: undefined,
  opening: 'Counted anew from where each free stretch begins.',
  packed: 'Only starts that leave nothing, or room for one meeting more, on either side.',
}

function GridPart({
  rules,
  unchanged,
  onChange,
}: {
  rules: Rules
  unchanged: Rules
  onChange: (change: Partial<Rules>) => void
}) {
  const grid = rules.grid ?? 'clock'
  const shown = Object.entries(grids).find(([, value]) => value === grid)?.[0] ?? 'on the clock'
  return (
    <Choice
      label="How starts are laid out"
      value={shown}
      options={Object.keys(grids)}
      changed={grid !== (unchanged.grid ?? 'clock')}
      onChange={(chosen) => onChange({ grid: grids[chosen as keyof typeof grids] })}
    />
  )
}

type WindowKind = 'up to so many days ahead' | 'between two dates' | 'without end'

function windowOf(rules: Rules): WindowKind {
  if (rules.windowFirst !== undefined) return 'between two dates'
  return rules.windowDays === 0 ? 'without end' : 'up to so many days ahead'
}

/** What a kind of window begins with when it is chosen. */
function windowChange(kind: WindowKind): Partial<Rules> {
  const today = new Date().toISOString().slice(0, 10)
  switch (kind) {
    case 'between two dates':
      return { windowFirst: today, windowLast: addDays(today, 60) }
    case 'without end':
      return { windowDays: 0, windowFirst: undefined, windowLast: undefined }
    default:
      return { windowDays: 60, windowFirst: undefined, windowLast: undefined }
  }
}

interface WindowPartProps {
  rules: Rules
  unchanged: Rules
  onChange: (change: Partial<Rules>) => void
  /** The number of days. */
  children: ReactNode
}

function WindowPart({ rules, unchanged, onChange, children }: WindowPartProps) {
  const kind = windowOf(rules)
  const day = (field: 'windowFirst' | 'windowLast', label: string) => (
    <input
      type="date"
      aria-label={label}
      className={partLook(rules[field] !== unchanged[field], false)}
      value={rules[field] ?? ''}
      onChange={(event) => onChange({ [field]: event.target.value })}
    />
  )
  return (
    <>
      <Choice
        label="Booking window"
        value={kind}
        options={['up to so many days ahead', 'between two dates', 'without end']}
        changed={kind !== windowOf(unchanged)}
        onChange={(chosen) => onChange(windowChange(chosen as WindowKind))}
      />
      {kind === 'up to so many days ahead' && <>: {children} days</>}
      {kind === 'between two dates' && (
        <>
          : {day('windowFirst', 'First day')} to {day('windowLast', 'Last day')}
        </>
      )}
    </>
  )
}
