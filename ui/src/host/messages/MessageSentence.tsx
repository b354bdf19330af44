import { useState } from 'react'
import type { Schemas } from '../../api/client'
import { say } from '../../say'
import { Choice, NumberPart, pairs, partLook, Sentence } from '../rules/parts'
import { Also } from './Also'
import { InOwnWords } from './AtOnce'
import { ClockPart } from './ClockPart'

export type Rule = Schemas['Rule']
type Unit = 'minutes' | 'hours' | 'days'

interface Props {
  rule: Rule
  place: number
  /** As it is saved. */
  before: Rule | undefined
  edits: boolean
  /** Whether there is a gateway for text messages. */
  texts: boolean
  /** In which there are words. */
  languages: string[]
  /** The questions whose answers can decide. */
  asks: Schemas['AskedInType'][]
  problem: string | undefined
  /** What is wrong with its words. */
  inWords: string | undefined
  onChange: (change: Partial<Rule>) => void
  onRemove: () => void
  onWords: () => void
}

const others = { guests: 'guest-reminder', hosts: 'host-reminder', address: 'office-note' } as const

/** The message that a rule sends, as the server names it. */
export function kindOf({ receiver, side, if: condition }: Rule): string {
  if (receiver !== 'client') return others[receiver]
  if (side === 'before') return 'client-reminder'
  return condition === 'missed' ? 'client-missed' : 'client-thanks'
}

const minutesIn: Record<Unit, number> = { minutes: 1, hours: 60, days: 24 * 60 }

/** What others than the client are told comes by mail and asks nothing; hosts and guests are told before a meeting. */
const toOthers = { by: 'mail', side: 'before', if: 'always', asks: false, words: {}, address: '' } as const

const onlyBefore = (receiver: Rule['receiver']) => receiver === 'hosts' || receiver === 'guests'

/** The largest unit that tells it whole; up to two days it is told in hours. */
function unitOf({ minutes, at }: Rule): Unit {
  if (at || (minutes > minutesIn.days * 2 && minutes % minutesIn.days === 0)) return 'days'
  return minutes > 0 && minutes % minutesIn.hours === 0 ? 'hours' : 'minutes'
}

/** "The client gets a mail 24 hours before the start, if they have not said that they come." */
export function MessageSentence({
  rule,
  place,
  before,
  edits,
  texts,
  languages,
  asks,
  problem,
  inWords,
  onChange,
  onRemove,
  onWords,
}: Props) {
  const n = place + 1
  const [chosen, setUnit] = useState(() => unitOf(rule))
  const unit = rule.minutes % minutesIn[chosen] === 0 ? chosen : unitOf(rule)
  const changed = (field: keyof Rule) => before?.[field] !== rule[field]
  return (
    <fieldset className="min-w-0" disabled={!edits} aria-label={say.messages.number(n)}>
      <Sentence problems={[problem, inWords].filter((one) => one !== undefined)}>
        {say.messages.sentence(
          <Choice
            label={say.messages.whoGets(n)}
            value={rule.receiver}
            options={pairs(say.messages.who)}
            changed={changed('receiver')}
            onChange={(receiver) =>
              onChange({ ...(receiver === 'client' ? { words: {}, address: '' } : toOthers), receiver })
            }
          />,
          rule.receiver === 'address' && (
            <>
              {' '}
              <input
                type="email"
                aria-label={say.messages.whichAddress(n)}
                aria-invalid={problem !== undefined || undefined}
                autoComplete="off"
                spellCheck={false}
                placeholder={say.messages.anAddress}
                className={`${partLook(changed('address'), problem !== undefined)}`}
                value={rule.address ?? ''}
                onChange={(event) => onChange({ address: event.target.value })}
              />
            </>
          ),
          texts && rule.receiver === 'client' ? (
            <Choice
              label={say.messages.byWhat(n)}
              value={rule.by === 'text' ? 'text' : 'mail'}
              options={pairs(say.messages.by)}
              changed={changed('by')}
              onChange={(by) => onChange({ by, asks: false, words: {} })}
            />
          ) : (
            say.messages.by[rule.by === 'text' ? 'text' : 'mail']
          ),
          <Amount
            rule={rule}
            unit={unit}
            n={n}
            changed={changed('minutes')}
            wrong={problem !== undefined}
            onUnit={setUnit}
            onChange={onChange}
          />,
          <Choice
            label={say.messages.when(n)}
            value={rule.side}
            options={onlyBefore(rule.receiver) ? [['before', say.messages.side.before]] : pairs(say.messages.side)}
            changed={changed('side')}
            onChange={(side) => onChange({ side, if: 'always', asks: false })}
          />,
          unit === 'days' && <TimeOfDay rule={rule} n={n} changed={changed('at')} onChange={onChange} />,
          kindOf(rule) === 'client-thanks' && rule.by !== 'text' && (
            <>
              {' '}
              <Choice
                label={say.messages.whatAsked(n)}
                value={rule.asks ? 'yes' : 'no'}
                options={pairs(say.messages.asks)}
                changed={changed('asks')}
                onChange={(to) => onChange({ asks: to === 'yes' })}
              />
            </>
          ),
          <Choice
            label={say.messages.ifWhat(n)}
            value={rule.if}
            options={pairs(say.messages[rule.side] as Record<Rule['if'], string>)}
            changed={changed('if')}
            onChange={(condition) =>
              onChange(condition === 'missed' ? { if: condition, asks: false } : { if: condition })
            }
          />,
          <Also
            key="also"
            n={n}
            also={rule.also ?? []}
            before={before?.also ?? []}
            edits={edits}
            languages={languages}
            asks={asks}
            onChange={(also) => onChange({ also })}
          />,
        )}{' '}
        <InOwnWords own={rule.words ?? {}} />
        {edits && (
          <span className="ml-2 space-x-3 text-note">
            <button type="button" className="link" aria-label={say.messages.wordsOfNumber(n)} onClick={onWords}>
              {say.messages.words}
            </button>
            <button type="button" className="link" aria-label={say.messages.removeMessage(n)} onClick={onRemove}>
              {say.messages.remove}
            </button>
          </span>
        )}
      </Sentence>
    </fieldset>
  )
}

interface AmountProps {
  rule: Rule
  unit: Unit
  n: number
  changed: boolean
  wrong: boolean
  onUnit: (unit: Unit) => void
  onChange: (change: Partial<Rule>) => void
}

function Amount({ rule, unit, n, changed, wrong, onUnit, onChange }: AmountProps) {
  const shown = rule.minutes / minutesIn[unit]
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
        options={pairs(say.messages.units(shown))}
        changed={changed}
        onChange={(to) => {
          onUnit(to)
          onChange({ minutes: shown * minutesIn[to], ...(to === 'days' ? {} : { at: '' }) })
        }}
      />
    </span>
  )
}

const morning = '09:00'

/** Whole days can end at a time of day where the receiver is. */
function TimeOfDay({
  rule: { at = '' },
  n,
  changed,
  onChange,
}: Pick<AmountProps, 'rule' | 'n' | 'changed' | 'onChange'>) {
  return (
    <span className="whitespace-nowrap">
      {' '}
      <Choice
        label={say.messages.atWhatTime(n)}
        value={at ? 'clock' : 'same'}
        options={pairs(say.messages.atTime)}
        changed={changed}
        onChange={(to) => onChange({ at: to === 'clock' ? morning : '' })}
      />
      {at && (
        <>
          {' '}
          <ClockPart
            label={say.messages.timeOfDay(n)}
            value={at}
            changed={changed}
            onChange={(to) => onChange({ at: to })}
          />
        </>
      )}
    </span>
  )
}
