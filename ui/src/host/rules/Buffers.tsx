import { Choice, RuleNumber, type RuleProps, RuleSentence } from './parts'

export function Buffers(props: RuleProps) {
  const { rules, unchanged, onChange } = props
  return (
    <RuleSentence {...props} fields={['before', 'after']} more={taken(rules)}>
      <RuleNumber {...props} field="before" label="Buffer before in minutes" /> minutes before and{' '}
      <RuleNumber {...props} field="after" label="Buffer after in minutes" /> after are kept free. Buffers{' '}
      <Choice
        label="Buffers and hours"
        value={rules.buffersInside ? 'stay inside' : 'may extend beyond'}
        options={['may extend beyond', 'stay inside']}
        changed={Boolean(rules.buffersInside) !== Boolean(unchanged.buffersInside)}
        onChange={(chosen) => onChange({ buffersInside: chosen === 'stay inside' })}
      />{' '}
      opening hours.
    </RuleSentence>
  )
}

/** "50 + 10 takes an hour of the host and 50 minutes of the client", where the length is known. */
function taken({ duration, before, after }: RuleProps['rules']): string | undefined {
  if (duration === undefined) return undefined
  const whole = duration + before + after
  if (!Number.isFinite(whole) || whole === duration) return undefined
  return `It takes ${whole} minutes of your day; the client sees ${duration}.`
}
