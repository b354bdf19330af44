import type { Schemas } from '../../api/client'
import { say } from '../../say'
import { Choice, NumberPart, pairs, partLook, Sentence } from '../rules/parts'

type Rules = Schemas['TypeRules']
type Kind = 'same' | 'several' | 'needed'
const kinds = pairs<Kind>({
  same: say.types.alwaysSameTime,
  several: say.types.oneSeveralLengths,
  needed: say.types.longClientNeeds,
})

interface Props {
  rules: Rules
  unchanged: Rules
  wrong: Record<string, string>
  onChange: (change: Partial<Rules>) => void
}

function kindOf(rules: Rules): Kind {
  if (rules.upBy) return 'needed'
  return rules.others === undefined ? 'same' : 'several'
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
    <Sentence problems={problems} note={kind === 'several' && say.types.clientsSeeFirstLength}>
      {say.types.lasts}{' '}
      <Choice
        label={say.types.howLongLasts}
        value={kind}
        options={kinds}
        changed={kind !== kindOf(unchanged)}
        onChange={(chosen) => onChange(change(chosen, rules))}
      />
      : {number('duration', say.types.lengthMinutes)}
      {say.types.minutesLong(
        kind === 'several' && (
          <>
            {' '}
            {say.types.or}{' '}
            <Others
              others={rules.others ?? []}
              changed={JSON.stringify(rules.others) !== JSON.stringify(unchanged.others)}
              onChange={(others) => onChange({ others })}
            />
          </>
        ),
      )}
      {kind === 'needed' && (
        <>
          {' '}
          {say.types.longerTimeUp(number('upBy', say.types.longerManyMinutesTime))}{' '}
          {say.types.minutesAtMost(number('upTo', say.types.longestMinutes))}
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
    case 'several':
      return { ...none, others: [duration * 2] }
    case 'needed':
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
      aria-label={say.types.furtherLengthsMinutes}
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
