import { useEffect, useState } from 'react'
import type { Schemas } from '../../api/client'
import { say } from '../../say'
import { useReadWeek, type Week, WeekRows } from '../hours/Week'
import { useWeekPlans } from '../queries'
import { Choice, pairs, Sentence } from '../rules/parts'

type Rules = Schemas['TypeRules']
type Kind = 'open' | 'plan' | 'own'
const kinds = pairs<Kind>({
  open: say.types.wheneverYouOpen,
  plan: say.types.withinWeekPlan,
  own: say.types.withinHoursOwn,
})

interface Props {
  rules: Rules
  unchanged: Rules
  wrong: Record<string, string>
  onChange: (change: Partial<Rules>) => void
}

function kindOf({ hours }: Rules): Kind {
  if (!hours) return 'open'
  return hours.plan ? 'plan' : 'own'
}

const office = ['9-17', '9-17', '9-17', '9-17', '9-17', 'closed', 'closed']

/** Hours of the meeting type, which narrow the host's and never widen them. */
export function OwnHours({ rules, unchanged, wrong, onChange }: Props) {
  const plans = useWeekPlans().data ?? []
  const kind = kindOf(rules)
  const choose = (chosen: Kind) => {
    const first = plans[0]
    const hours = {
      open: undefined,
      plan: first && { plan: first.id },
      own: { week: office },
    }[chosen]
    onChange({ hours })
  }
  const problem = wrong['rules.hours']
  return (
    <>
      <Sentence problems={problem ? [problem] : []} note={kind !== 'open' && say.types.openWhereBothHave}>
        {say.types.offered}{' '}
        <Choice
          label={say.types.whenOffered}
          value={kind}
          options={kinds.filter(([k]) => k !== 'plan' || plans.length > 0)}
          changed={kind !== kindOf(unchanged)}
          onChange={choose}
        />
        {kind === 'plan' && (
          <>
            :{' '}
            <Choice
              label={say.types.weekPlan}
              value={String(rules.hours?.plan)}
              options={plans.map((plan) => [String(plan.id), plan.name])}
              changed={rules.hours?.plan !== unchanged.hours?.plan}
              onChange={(id) => onChange({ hours: { plan: Number(id) } })}
            />
          </>
        )}
        .
      </Sentence>
      {kind === 'own' && (
        <OwnWeek
          texts={rules.hours?.week ?? office}
          unchanged={unchanged.hours?.week ?? []}
          onChange={(week) => onChange({ hours: { week } })}
        />
      )}
    </>
  )
}

function OwnWeek({
  texts,
  unchanged,
  onChange,
}: {
  texts: string[]
  unchanged: string[]
  onChange: (texts: string[]) => void
}) {
  const [week, setWeek] = useState<Week>(() => texts.map((text) => ({ text })))
  const read = useReadWeek(week)
  const readTexts = read?.map((day) => day.text)
  // Drawn days get their text from the server; only then does the draft know them.
  // biome-ignore lint/correctness/useExhaustiveDependencies: only what was read anew is passed on
  useEffect(() => {
    if (readTexts && readTexts.join('\n') !== texts.join('\n')) onChange(readTexts)
  }, [readTexts?.join('\n')])
  return (
    <div className="mt-3">
      <WeekRows
        week={week}
        read={read ?? texts.map((text) => ({ text, intervals: [] }))}
        changed={(readTexts ?? texts).map((text, i) => text !== unchanged[i])}
        onChange={setWeek}
      />
    </div>
  )
}
