import { DateInput } from '../../kit/DateField'
import { addDays } from '../../time/time'
import { Choice, partLook, RuleNumber, type RuleProps, RuleSentence, type Rules } from './parts'

export function Window(props: RuleProps) {
  return (
    <RuleSentence {...props} fields={['windowDays', 'windowFirst']}>
      It can be booked <WindowPart {...props} />.
    </RuleSentence>
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
        label="Booking window"
        value={kind}
        options={['up to so many days ahead', 'between two dates', 'without end']}
        changed={kind !== windowOf(unchanged)}
        onChange={(chosen) => onChange(windowChange(chosen as WindowKind))}
      />
      {kind === 'up to so many days ahead' && (
        <>
          : <RuleNumber {...props} field="windowDays" label="Booking window in days" onChange={setDays} /> days
        </>
      )}
      {kind === 'between two dates' && (
        <>
          : {day('windowFirst', 'First day')} to {day('windowLast', 'Last day')}
        </>
      )}
    </>
  )
}
