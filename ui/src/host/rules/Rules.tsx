import type { ReactNode } from 'react'
import type { Schemas } from '../../api/client'
import { addDays } from '../../time/time'
import { Limits } from './Limits'
import { Choice, NumberPart, partLook, Sentence } from './parts'

type Rules = Schemas['BookingRules']
export type Group = 'buffers' | 'step' | 'notice' | 'window' | 'limit'

interface Props {
  rules: Rules
  unchanged: Rules
  wrong: Record<string, string>
  onChange: (group: Group, change: Partial<Rules>) => void
  /** Which groups follow the workspace; empty where its own rules are set. */
  follows?: Group[]
  /** What stands below a group's sentence about where its rules come from. */
  note?: (group: Group) => ReactNode
  /** What a meeting with its buffers takes, where that is known. */
  taken?: string | undefined
}

/** The booking rules as sentences with parts to change: of a meeting type, or of the workspace for all of them. */
export function RuleSentences({ rules, unchanged, wrong, onChange, follows = [], note = () => null, taken }: Props) {
  const number = (group: Group, field: 'before' | 'after' | 'step' | 'offset' | 'windowDays', label: string) => (
    <NumberPart
      label={label}
      value={Math.max(0, rules[field] ?? 0)}
      changed={(rules[field] ?? 0) !== (unchanged[field] ?? 0)}
      wrong={wrong[`rules.${field}`] !== undefined}
      // 0 days would mean a window without end, which is chosen in words; typed, it is refused.
      onChange={(value) => onChange(group, { [field]: field === 'windowDays' && value === 0 ? -1 : value })}
    />
  )
  const sentence = (group: Group, fields: string[], said: ReactNode, more?: string) => (
    <Sentence
      follows={follows.includes(group)}
      problems={fields.map((field) => wrong[`rules.${field}`]).filter((text) => text !== undefined)}
      note={
        <>
          {more && <p>{more}</p>}
          {note(group)}
        </>
      }
    >
      {said}
    </Sentence>
  )
  return (
    <>
      {sentence(
        'buffers',
        ['before', 'after'],
        <>
          {number('buffers', 'before', 'Buffer before in minutes')} minutes before and{' '}
          {number('buffers', 'after', 'Buffer after in minutes')} after are kept free. Buffers{' '}
          <Choice
            label="Buffers and hours"
            value={rules.buffersInside ? 'stay inside' : 'may reach past'}
            options={['may reach past', 'stay inside']}
            changed={Boolean(rules.buffersInside) !== Boolean(unchanged.buffersInside)}
            onChange={(chosen) => onChange('buffers', { buffersInside: chosen === 'stay inside' })}
          />{' '}
          the open hours.
        </>,
        taken,
      )}
      {sentence(
        'step',
        ['step', 'offset'],
        <>
          It can start every {number('step', 'step', 'Start step in minutes')} minutes{' '}
          <GridPart rules={rules} unchanged={unchanged} onChange={(change) => onChange('step', change)} />
          {rules.grid !== 'opening' && (
            <>, counted from {number('step', 'offset', 'Offset in minutes')} minutes past midnight</>
          )}
          .
        </>,
        gridNotes[rules.grid ?? 'clock'],
      )}
      {sentence(
        'notice',
        ['notice'],
        <>
          Not sooner than{' '}
          <NoticePart
            rules={rules}
            unchanged={unchanged}
            wrong={wrong['rules.notice'] !== undefined}
            onChange={(change) => onChange('notice', change)}
          />{' '}
          from now.
        </>,
      )}
      {sentence(
        'window',
        ['windowDays', 'windowFirst'],
        <>
          It can be booked{' '}
          <WindowPart rules={rules} unchanged={unchanged} onChange={(change) => onChange('window', change)}>
            {number('window', 'windowDays', 'Booking window in days')}
          </WindowPart>
          .
        </>,
      )}
      <Limits
        rules={rules}
        unchanged={unchanged}
        wrong={wrong}
        onChange={(change) => onChange('limit', change)}
        follows={follows.includes('limit')}
        note={note('limit')}
      />
    </>
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
