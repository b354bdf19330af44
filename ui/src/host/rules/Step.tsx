import { Choice, RuleNumber, type RuleProps, RuleSentence, type Rules } from './parts'

export function Step(props: RuleProps) {
  const { rules, unchanged, onChange } = props
  return (
    <RuleSentence {...props} fields={['step', 'offset']} more={gridNotes[rules.grid ?? 'clock']}>
      It can start every <RuleNumber {...props} field="step" label="Start step in minutes" /> minutes{' '}
      <GridPart rules={rules} unchanged={unchanged} onChange={onChange} />
      {rules.grid !== 'opening' && (
        <>
          , counted from <RuleNumber {...props} field="offset" label="Offset in minutes" /> minutes past midnight
        </>
      )}
      .
    </RuleSentence>
  )
}

const grids = { 'on the clock': 'clock', 'from each opening': 'opening', 'packed without gaps': 'packed' } as const

const gridNotes = {
  clock: undefined,
  opening: 'Counted anew from where each free stretch begins.',
  packed: 'Only starts that leave nothing, or room for one meeting more, on either side.',
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
  const shown = Object.entries(grids).find(([, value]) => value === grid)?.[0] ?? 'on the clock'
  return (
    <Choice
      label="How starts are laid out"
      value={shown}
      options={Object.keys(grids)}
      changed={grid !== (unchanged.grid ?? 'clock')}
      onChange={(chosen) => onChange({ grid: grids[chosen as keyof typeof grids] })}
    />
  )
}
