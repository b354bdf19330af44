import { DateInput } from '../../kit/DateField'
import { say } from '../../say'
import { addDays } from '../../time/time'
import { Choice, pairs, partLook, RuleNumber, type RuleProps, RuleSentence, type Rules } from './parts'

export function Window(props: RuleProps) {
  return (
    <RuleSentence {...props} fields={['windowDays', 'windowFirst']}>
      {say.rules.canBooked(<WindowPart {...props} />)}
    </RuleSentence>
  )
}

type WindowKind = 'days' | 'dates' | 'endless'
const kinds = pairs<WindowKind>({
  days: say.rules.upManyDaysAhead,
  dates: say.rules.betweenTwoDates,
  endless: say.rules.withoutEnd,
})

function windowOf(rules: Rules): WindowKind {
  if (rules.windowFirst !== undefined) return 'dates'
  return rules.windowDays === 0 ? 'endless' : 'days'
}

/** What a kind of window begins with when it is chosen. */
function windowChange(kind: WindowKind): Partial<Rules> {
  const today = new Date().toISOString().slice(0, 10)
  switch (kind) {
    case 'dates':
      return { windowFirst: today, windowLast: addDays(today, 60) }
    case 'endless':
      return { windowDays: 0, windowFirst: undefined, windowLast: undefined }
    default:
      return { windowDays: 60, windowFirst: undefined, windowLast: undefined }
  }
}

function WindowPart(props: RuleProps) {
  const { rules, unchanged, onChange } = props
  const kind = windowOf(rules)
  const day = (field: 'windowFirst' | 'windowLast', label: string) => (
    <DateInput
      aria-label={label}
      className={partLook(rules[field] !== unchanged[field], false)}
      value={rules[field] ?? ''}
      onChange={(date) => onChange({ [field]: date })}
    />
  )
  // 0 days would mean a window without end, which is chosen in words; typed, it is refused.
  const setDays = ({ windowDays }: Partial<Rules>) => onChange({ windowDays: windowDays || -1 })
  return (
    <>
      <Choice
        label={say.rules.bookingWindow}
        value={kind}
        options={kinds}
        changed={kind !== windowOf(unchanged)}
        onChange={(chosen) => onChange(windowChange(chosen))}
      />
      {kind === 'days' &&
        say.rules.days(
          <RuleNumber {...props} field="windowDays" label={say.rules.bookingWindowDays} onChange={setDays} />,
        )}
      {kind === 'dates' && say.rules.to(day('windowFirst', say.rules.firstDay), day('windowLast', say.rules.lastDay))}
    </>
  )
}
