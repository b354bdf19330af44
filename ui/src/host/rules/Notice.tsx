import { Choice, NumberPart, type RuleProps, RuleSentence, type Rules } from './parts'

export function Notice(props: RuleProps) {
  const { rules, unchanged, wrong, onChange } = props
  return (
    <RuleSentence {...props} fields={['notice']}>
      Not sooner than{' '}
      <NoticePart rules={rules} unchanged={unchanged} wrong={wrong['rules.notice'] !== undefined} onChange={onChange} />{' '}
      from now.
    </RuleSentence>
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
