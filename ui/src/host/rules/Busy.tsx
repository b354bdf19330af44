import { Choice, type RuleProps, RuleSentence } from './parts'

const counts = { 'keeps it closed': false, 'doesn’t count': true } as const

/** Whether the hosts' calendars count. */
export function Busy(props: RuleProps) {
  const { rules, unchanged, onChange } = props
  const ignored = rules.ignoreCalendars ?? false
  return (
    <RuleSentence {...props} fields={[]} more={ignored ? 'Other bookings still keep it closed.' : undefined}>
      What is in the hosts’ calendars{' '}
      <Choice
        label="Whether calendars count"
        value={ignored ? 'doesn’t count' : 'keeps it closed'}
        options={Object.keys(counts)}
        changed={ignored !== (unchanged.ignoreCalendars ?? false)}
        onChange={(chosen) => onChange({ ignoreCalendars: counts[chosen as keyof typeof counts] })}
      />
      .
    </RuleSentence>
  )
}
