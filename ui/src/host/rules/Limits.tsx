import type { Schemas } from '../../api/client'
import { Button } from '../../kit/kit'
import { Choice, NumberPart, type RuleProps, Sentence } from './parts'
import { WhatItDoes } from './WhatItDoes'

type Limit = Schemas['TypeLimit']

const whose = { 'of this type': 'type', 'of yours in all': 'host' } as const
const spans = { 'a day': 'day', 'a week': 'week' } as const

function wordFor<T extends string>(words: Record<string, T>, value: T): string {
  return Object.entries(words).find(([, v]) => v === value)?.[0] ?? ''
}

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
        {limits.length === 0 && 'No limit a day or a week. '}
        <Button kind="text" onClick={() => set([...limits, { of: 'type', per: 'day', count: 3 }])}>
          Add a limit
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
      At most{' '}
      <NumberPart
        label="Limit"
        value={amount}
        changed={changed}
        wrong={problem !== undefined}
        onChange={(value) => setAmount(value, byTime)}
      />{' '}
      <Choice
        label="What is limited"
        value={byTime ? 'minutes' : 'bookings'}
        options={['bookings', 'minutes']}
        changed={changed}
        onChange={(chosen) => setAmount(chosen === 'minutes' ? 120 : 3, chosen === 'minutes')}
      />{' '}
      <Choice
        label="Whose bookings"
        value={wordFor(whose, of)}
        options={Object.keys(whose)}
        changed={changed}
        onChange={(chosen) => onChange({ ...limit, of: whose[chosen as keyof typeof whose] })}
      />{' '}
      <Choice
        label="Per"
        value={wordFor(spans, per)}
        options={Object.keys(spans)}
        changed={changed}
        onChange={(chosen) => onChange({ ...limit, per: spans[chosen as keyof typeof spans] })}
      />
      .{' '}
      <Button kind="text" className="text-note" onClick={onRemove}>
        Remove
      </Button>
    </Sentence>
  )
}
