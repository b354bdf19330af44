import type { Schemas } from '../../api/client'
import { Button } from '../../kit/kit'
import { say } from '../../say'
import { Choice, NumberPart, pairs, type RuleProps, Sentence } from './parts'
import { WhatItDoes } from './WhatItDoes'

type Limit = Schemas['TypeLimit']

const counted = pairs({ bookings: say.rules.bookings, minutes: say.rules.minutes })
const whose = pairs<Limit['of']>({ type: say.rules.ofType, host: say.rules.ofHost })
const spans = pairs<Limit['per']>({ day: say.rules.day, week: say.rules.week })

/** How much may be booked in a day or a week. */
export function Limits({ name, rules, unchanged, wrong, onChange, follows = false, note }: RuleProps) {
  const limits = rules.limits ?? []
  const set = (next: Limit[]) => onChange({ limits: next })
  return (
    <div data-follows={follows || undefined}>
      {limits.map((limit, i) => (
        <OneLimit
          name={name}
          // biome-ignore lint/suspicious/noArrayIndexKey: a limit is known by its place
          key={i}
          limit={limit}
          before={unchanged.limits?.[i]}
          problem={wrong[`rules.limits.${i}`]}
          onChange={(next) => set(limits.map((old, k) => (k === i ? next : old)))}
          onRemove={() => set(limits.filter((_, k) => k !== i))}
        />
      ))}
      <div className="border-b border-rule py-3 text-note text-ink-2">
        {limits.length === 0 && say.rules.noLimitDayWeek}
        <Button kind="text" onClick={() => set([...limits, { of: 'type', per: 'day', count: 3 }])}>
          {say.rules.addLimit}
        </Button>
        {note}
        <WhatItDoes group={name} rules={rules} />
      </div>
    </div>
  )
}

interface OneLimitProps {
  name: string | undefined
  limit: Limit
  before: Limit | undefined
  problem: string | undefined
  onChange: (limit: Limit) => void
  onRemove: () => void
}

function OneLimit({ name, limit, before, problem, onChange, onRemove }: OneLimitProps) {
  const byTime = (limit.minutes ?? 0) > 0
  const amount = byTime ? (limit.minutes ?? 0) : (limit.count ?? 0)
  const { of, per } = limit
  const changed = JSON.stringify(limit) !== JSON.stringify(before)
  const setAmount = (value: number, time: boolean) =>
    onChange({ of, per, ...(time ? { minutes: value } : { count: value }) })
  return (
    <Sentence name={name} problems={problem ? [problem] : []}>
      {say.rules.most}{' '}
      <NumberPart
        label={say.rules.limit}
        value={amount}
        changed={changed}
        wrong={problem !== undefined}
        onChange={(value) => setAmount(value, byTime)}
      />{' '}
      <Choice
        label={say.rules.whatLimited}
        value={byTime ? 'minutes' : 'bookings'}
        options={counted}
        changed={changed}
        onChange={(chosen) => setAmount(chosen === 'minutes' ? 120 : 3, chosen === 'minutes')}
      />{' '}
      <Choice
        label={say.rules.whoseBookings}
        value={of}
        options={whose}
        changed={changed}
        onChange={(of) => onChange({ ...limit, of })}
      />{' '}
      <Choice
        label={say.rules.per}
        value={per}
        options={spans}
        changed={changed}
        onChange={(per) => onChange({ ...limit, per })}
      />
      .{' '}
      <Button kind="text" className="text-note" onClick={onRemove}>
        {say.rules.remove}
      </Button>
    </Sentence>
  )
}
