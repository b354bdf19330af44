import { useEffect, useState } from 'react'
import type { Schemas } from '../../api/client'
import { useReadWeek, type Week, WeekRows } from '../hours/Week'
import { useWeekPlans } from '../queries'
import { Choice, Sentence } from '../rules/parts'

type Rules = Schemas['TypeRules']
const kinds = ['whenever you are open', 'within a week plan', 'within hours of its own'] as const
type Kind = (typeof kinds)[number]

interface Props {
  rules: Rules
  unchanged: Rules
  wrong: Record<string, string>
  onChange: (change: Partial<Rules>) => void
}

function kindOf({ hours }: Rules): Kind {
  if (!hours) return 'whenever you are open'
  return hours.plan ? 'within a week plan' : 'within hours of its own'
}

const office = ['9-17', '9-17', '9-17', '9-17', '9-17', 'closed', 'closed']

/** Hours of the meeting type, which narrow the host's and never widen them. */
export function OwnHours({ rules, unchanged, wrong, onChange }: Props) {
  const plans = useWeekPlans().data ?? []
  const kind = kindOf(rules)
  const choose = (chosen: Kind) => {
    const first = plans[0]
    const hours = {
      'whenever you are open': undefined,
      'within a week plan': first && { plan: first.id },
      'within hours of its own': { week: office },
    }[chosen]
    onChange({ hours })
  }
  const problem = wrong['rules.hours']
  return (
    <>
      <Sentence
        problems={problem ? [problem] : []}
        note={kind !== 'whenever you are open' && 'It is open where both have hours: yours and these.'}
      >
        It is offered{' '}
        <Choice
          label="When it is offered"
          value={kind}
          options={kinds.filter((k) => k !== 'within a week plan' || plans.length > 0)}
          changed={kind !== kindOf(unchanged)}
          onChange={(chosen) => choose(chosen as Kind)}
        />
        {kind === 'within a week plan' && (
          <>
            :{' '}
            <Choice
              label="Week plan"
              value={plans.find((plan) => plan.id === rules.hours?.plan)?.name ?? ''}
              options={plans.map((plan) => plan.name)}
              changed={rules.hours?.plan !== unchanged.hours?.plan}
              onChange={(name) => onChange({ hours: { plan: plans.find((plan) => plan.name === name)?.id } })}
            />
          </>
        )}
        .
      </Sentence>
      {kind === 'within hours of its own' && (
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
