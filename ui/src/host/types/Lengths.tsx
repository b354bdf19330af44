import type { Schemas } from '../../api/client'
import { Choice, NumberPart, partLook, Sentence } from '../rules/parts'

type Rules = Schemas['TypeRules']
type Kind = 'always the same time' | 'one of several lengths' | 'as long as the client needs'

interface Props {
  rules: Rules
  unchanged: Rules
  wrong: Record<string, string>
  onChange: (change: Partial<Rules>) => void
}

function kindOf(rules: Rules): Kind {
  if (rules.upBy) return 'as long as the client needs'
  return rules.others === undefined ? 'always the same time' : 'one of several lengths'
}

/** How long it lasts: fixed, several lengths to choose from, or as long as needed between two limits. */
export function Lengths({ rules, unchanged, wrong, onChange }: Props) {
  const kind = kindOf(rules)
  const number = (field: 'duration' | 'upTo' | 'upBy', label: string) => (
    <NumberPart
      label={label}
      value={rules[field] ?? 0}
      changed={(rules[field] ?? 0) !== (unchanged[field] ?? 0)}
      wrong={wrong[`rules.${field}`] !== undefined}
      onChange={(value) => onChange({ [field]: value })}
    />
  )
  const problems = ['duration', 'others', 'upTo', 'upBy']
    .map((field) => wrong[`rules.${field}`])
    .filter((text) => text !== undefined)
  return (
    <Sentence problems={problems} note={kind === 'one of several lengths' && 'Clients see the first length first.'}>
      It lasts{' '}
      <Choice
        label="How long it lasts"
        value={kind}
        options={['always the same time', 'one of several lengths', 'as long as the client needs']}
        changed={kind !== kindOf(unchanged)}
        onChange={(chosen) => onChange(change(chosen as Kind, rules))}
      />
      : {number('duration', 'Length in minutes')}
      {kind === 'one of several lengths' && (
        <>
          {' '}
          or{' '}
          <Others
            others={rules.others ?? []}
            changed={JSON.stringify(rules.others) !== JSON.stringify(unchanged.others)}
            onChange={(others) => onChange({ others })}
          />
        </>
      )}{' '}
      minutes
      {kind === 'as long as the client needs' && (
        <>
          {' '}
          or longer by {number('upBy', 'Longer by so many minutes at a time')} at a time, up to{' '}
          {number('upTo', 'Longest in minutes')} minutes
        </>
      )}
      .
    </Sentence>
  )
}

/** What a kind of length begins with when it is chosen. */
function change(kind: Kind, { duration }: Rules): Partial<Rules> {
  const none = { others: undefined, upBy: undefined, upTo: undefined }
  switch (kind) {
    case 'one of several lengths':
      return { ...none, others: [duration * 2] }
    case 'as long as the client needs':
      return { ...none, upBy: duration, upTo: duration * 4 }
    default:
      return none
  }
}

/** The further lengths, typed with commas between; only what is whole numbers counts. */
function Others({
  others,
  changed,
  onChange,
}: {
  others: number[]
  changed: boolean
  onChange: (others: number[]) => void
}) {
  const read = (text: string) => (text.match(/\d+/g) ?? []).map(Number).slice(0, 11)
  return (
    <input
      aria-label="Further lengths in minutes"
      className={partLook(changed, false)}
      style={{ width: `${Math.max(6, others.join(', ').length + 3)}ch` }}
      // While it is being typed the field keeps the text; leaving it shows what was read.
      defaultValue={others.join(', ')}
      key={others.length === 0 ? 'none' : 'some'}
      onChange={(event) => onChange(read(event.target.value))}
      onBlur={(event) => {
        event.target.value = read(event.target.value).join(', ')
      }}
    />
  )
}
