import { say } from '../../say'
import { Choice, pairs, RuleNumber, type RuleProps, RuleSentence, type Rules } from './parts'

export function Step(props: RuleProps) {
  const { rules, unchanged, onChange } = props
  return (
    <RuleSentence {...props} fields={['step', 'offset']} more={gridNotes[rules.grid ?? 'clock']}>
      {say.rules.canStartEveryMinutes(<RuleNumber {...props} field="step" label={say.rules.startStepMinutes} />)}{' '}
      <GridPart rules={rules} unchanged={unchanged} onChange={onChange} />
      {rules.grid !== 'opening' &&
        say.rules.countedFromMinutesPast(<RuleNumber {...props} field="offset" label={say.rules.offsetMinutes} />)}
      .
    </RuleSentence>
  )
}

const grids = pairs<NonNullable<Rules['grid']>>({
  clock: say.rules.clock,
  opening: say.rules.opening,
  packed: say.rules.packed,
})

const gridNotes = {
  clock: undefined,
  opening: say.rules.countedAnewFromWhere,
  packed: say.rules.onlyStartsLeaveNothing,
}

function GridPart({
  rules,
  unchanged,
  onChange,
}: {
  rules: Rules
  unchanged: Rules
  onChange: (change: Partial<Rules>) => void
}) {
  const grid = rules.grid ?? 'clock'
  return (
    <Choice
      label={say.rules.howStartsLaidOut}
      value={grid}
      options={grids}
      changed={grid !== (unchanged.grid ?? 'clock')}
      onChange={(grid) => onChange({ grid })}
    />
  )
}
