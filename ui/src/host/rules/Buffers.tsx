import { say } from '../../say'
import { Choice, pairs, RuleNumber, type RuleProps, RuleSentence } from './parts'

export function Buffers(props: RuleProps) {
  const { rules, unchanged, onChange } = props
  return (
    <RuleSentence {...props} fields={['before', 'after']} more={taken(rules)}>
      {say.rules.minutesBefore(<RuleNumber {...props} field="before" label={say.rules.bufferBeforeMinutes} />)}{' '}
      {say.rules.afterKeptFreeBuffers(<RuleNumber {...props} field="after" label={say.rules.bufferAfterMinutes} />)}{' '}
      {say.rules.openingHours(
        <Choice
          label={say.rules.buffersHours}
          value={rules.buffersInside ? 'inside' : 'beyond'}
          options={pairs({ beyond: say.rules.mayExtendBeyond, inside: say.rules.stayInside })}
          changed={Boolean(rules.buffersInside) !== Boolean(unchanged.buffersInside)}
          onChange={(chosen) => onChange({ buffersInside: chosen === 'inside' })}
        />,
      )}
    </RuleSentence>
  )
}

/** "50 + 10 takes an hour of the host and 50 minutes of the client", where the length is known. */
function taken({ duration, before, after }: RuleProps['rules']): string | undefined {
  if (duration === undefined) return undefined
  const whole = duration + before + after
  if (!Number.isFinite(whole) || whole === duration) return undefined
  return say.rules.takesMinutesYourDay(whole, duration)
}
