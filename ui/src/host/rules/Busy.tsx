import { say } from '../../say'
import { Choice, pairs, type RuleProps, RuleSentence } from './parts'

const counts = pairs({ closes: say.rules.keepsClosed, ignored: say.rules.doesntCount })

/** Whether the hosts' calendars count. */
export function Busy(props: RuleProps) {
  const { rules, unchanged, onChange } = props
  const ignored = rules.ignoreCalendars ?? false
  return (
    <RuleSentence {...props} fields={[]} more={ignored ? say.rules.otherBookingsStillKeep : undefined}>
      {say.rules.whatHostsCalendars}{' '}
      <Choice
        label={say.rules.whetherCalendarsCount}
        value={ignored ? 'ignored' : 'closes'}
        options={counts}
        changed={ignored !== (unchanged.ignoreCalendars ?? false)}
        onChange={(chosen) => onChange({ ignoreCalendars: chosen === 'ignored' })}
      />
      .
    </RuleSentence>
  )
}
