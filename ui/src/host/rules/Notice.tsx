import { say } from '../../say'
import { Choice, NumberPart, pairs, type RuleProps, RuleSentence, type Rules } from './parts'

export function Notice(props: RuleProps) {
  const { rules, unchanged, wrong, onChange } = props
  return (
    <RuleSentence {...props} fields={['notice']}>
      {say.rules.notSoonerThan}{' '}
      {say.rules.fromNow(
        <NoticePart
          rules={rules}
          unchanged={unchanged}
          wrong={wrong['rules.notice'] !== undefined}
          onChange={onChange}
        />,
      )}
    </RuleSentence>
  )
}

/** Units that a notice can be told in; all but days are kept in minutes. */
const units = { minutes: 1, hours: 60, days: 0 }
type Unit = keyof typeof units
const unitWords = pairs<Unit>(say.rules.units)

function unitOf(rules: Rules): Unit {
  if (rules.noticeInDays) return 'days'
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
  const set = (amount: number, as: Unit) => onChange({ notice: amount * (units[as] || 1), noticeInDays: as === 'days' })
  return (
    <span className="whitespace-nowrap">
      <NumberPart
        label={say.rules.notice}
        value={shown}
        changed={changed}
        wrong={wrong}
        onChange={(amount) => set(amount, unit)}
      />{' '}
      <Choice
        label={say.rules.unitNotice}
        value={unit}
        options={unitWords}
        changed={changed}
        onChange={(chosen) => set(shown, chosen)}
      />
    </span>
  )
}
