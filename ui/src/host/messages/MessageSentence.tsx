import { useState } from 'react'
import type { Schemas } from '../../api/client'
import { say } from '../../say'
import { Choice, NumberPart, pairs, Sentence } from '../rules/parts'

export type Rule = Schemas['Rule']
type Unit = 'minutes' | 'hours' | 'days'

interface Props {
  rule: Rule
  place: number
  /** As it is saved. */
  before: Rule | undefined
  edits: boolean
  problem: string | undefined
  onChange: (change: Partial<Rule>) => void
  onRemove: () => void
}

const minutesIn: Record<Unit, number> = { minutes: 1, hours: 60, days: 24 * 60 }

/** The largest unit that tells it whole; up to two days it is told in hours. */
function unitOf(minutes: number): Unit {
  if (minutes > 0 && minutes % minutesIn.days === 0 && minutes > minutesIn.days * 2) return 'days'
  return minutes > 0 && minutes % minutesIn.hours === 0 ? 'hours' : 'minutes'
}

/** "The client gets a mail 24 hours before the start, if they have not said that they come." */
export function MessageSentence({ rule, place, before, edits, problem, onChange, onRemove }: Props) {
  const n = place + 1
  const changed = (field: keyof Rule) => before?.[field] !== rule[field]
  return (
    <fieldset className="min-w-0" disabled={!edits} aria-label={say.messages.number(n)}>
      <Sentence problems={problem ? [problem] : []}>
        {say.messages.sentence(
          <Choice
            label={say.messages.whoGets(n)}
            value={rule.receiver}
            options={pairs(say.messages.who)}
            changed={changed('receiver')}
            onChange={(receiver) =>
              onChange(receiver === 'hosts' ? { receiver, side: 'before', if: 'always' } : { receiver })
            }
          />,
          <Amount rule={rule} n={n} changed={changed('minutes')} wrong={problem !== undefined} onChange={onChange} />,
          <Choice
            label={say.messages.when(n)}
            value={rule.side}
            options={rule.receiver === 'hosts' ? [['before', say.messages.side.before]] : pairs(say.messages.side)}
            changed={changed('side')}
            onChange={(side) => onChange({ side, if: 'always' })}
          />,
          <Choice
            label={say.messages.ifWhat(n)}
            value={rule.if}
            options={pairs(say.messages[rule.side] as Record<Rule['if'], string>)}
            changed={changed('if')}
            onChange={(condition) => onChange({ if: condition })}
          />,
        )}{' '}
        {edits && (
          <button
            type="button"
            className="link ml-2 text-note"
            aria-label={say.messages.removeMessage(n)}
            onClick={onRemove}
          >
            {say.messages.remove}
          </button>
        )}
      </Sentence>
    </fieldset>
  )
}

interface AmountProps {
  rule: Rule
  n: number
  changed: boolean
  wrong: boolean
  onChange: (change: Partial<Rule>) => void
}

function Amount({ rule: { minutes }, n, changed, wrong, onChange }: AmountProps) {
  const [unit, setUnit] = useState(() => unitOf(minutes))
  const shown = minutes / minutesIn[unit]
  return (
    <span className="whitespace-nowrap">
      <NumberPart
        label={say.messages.howLong(n)}
        value={shown}
        changed={changed}
        wrong={wrong}
        onChange={(amount) => onChange({ minutes: amount * minutesIn[unit] })}
      />{' '}
      <Choice
        label={say.messages.unit(n)}
        value={unit}
        options={pairs(say.messages.units)}
        changed={changed}
        onChange={(to) => {
          setUnit(to)
          onChange({ minutes: shown * minutesIn[to] })
        }}
      />
    </span>
  )
}
