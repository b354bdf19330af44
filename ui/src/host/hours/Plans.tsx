import { useMutation, useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { hasChanged, keys } from '../../api/keys'
import { Button, lineLook } from '../../kit/kit'
import { say } from '../../say'
import { useHoursChange, useMe } from '../queries'
import type { Week } from './Week'

type Plan = Schemas['WeekPlan']

/** Whose week it is: one's own, or a plan that several work by. */
export function PlanChoice({ plans, plan, onChoose }: { plans: Plan[]; plan: number; onChoose: (id: number) => void }) {
  const me = useMe().data?.person?.name
  const others = plans.find((p) => p.id === plan)?.users.filter((user) => user !== me) ?? []
  if (plans.length === 0) return <span />
  return (
    <p className="text-note text-ink-2">
      <select
        aria-label={say.hours.weekPlan}
        className="border-0 border-b border-ink bg-sheet px-1.5 py-0.5 text-base font-semibold text-ink"
        value={plan}
        onChange={(event) => onChoose(Number(event.target.value))}
      >
        <option value={0}>{say.hours.weekYourOwn}</option>
        {plans.map((p) => (
          <option key={p.id} value={p.id}>
            {p.name}
          </option>
        ))}
      </select>{' '}
      {others.length > 0 && say.hours.alsoUsedChangeHere(others.join(', '))}
    </p>
  )
}

/** Keeps the week under a name, to be used by others and by meeting types. */
export function KeepAsPlan({ week }: { week: Week }) {
  const [asking, setAsking] = useState(false)
  const [name, setName] = useState('')
  const add = useHoursChange(() => need(api.POST('/week-plans', { body: { name, week } })))
  if (!asking)
    return (
      <Button kind="text" className="text-note" onClick={() => setAsking(true)}>
        {say.hours.saveWeekPlan}
      </Button>
    )
  const submit = (event: FormEvent) => {
    event.preventDefault()
    add.mutate(undefined)
  }
  const problem = add.error?.fields.name ?? add.error?.message
  return (
    <form className="flex items-end gap-2 text-note" onSubmit={submit} noValidate>
      <div>
        <input
          // biome-ignore lint/a11y/noAutofocus: the person has just asked for it
          autoFocus
          aria-label={say.hours.nameOfPlan}
          aria-invalid={problem ? true : undefined}
          placeholder={say.hours.itsName}
          className={lineLook(problem)}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        {problem && (
          <p role="alert" className="text-need">
            {problem}
          </p>
        )}
      </div>
      <Button type="submit" kind="text">
        {say.hours.keep}
      </Button>
      <Button kind="text" onClick={() => setAsking(false)}>
        {say.hours.dont}
      </Button>
    </form>
  )
}

/** All week plans, to be renamed or removed. */
export function Plans({ plans }: { plans: Plan[] }) {
  const rename = usePlanChange(({ id, name }: { id: number; name: string }) =>
    need(api.PUT('/week-plans/{id}', { params: { path: { id } }, body: { name } })),
  )
  const remove = usePlanChange((id: number) => need(api.DELETE('/week-plans/{id}', { params: { path: { id } } })))
  const error = rename.error ?? remove.error
  if (plans.length === 0) return null
  return (
    <section aria-labelledby="plans-head" className="mt-7">
      <h2 id="plans-head">{say.hours.weekPlans}</h2>
      <ul className="mt-1">
        {plans.map((plan) => (
          <li
            key={`${plan.id} ${plan.name}`}
            className="grid grid-cols-[1fr_1.4fr_auto] gap-3 border-b border-rule py-2"
          >
            <input
              aria-label={say.hours.nameOfThePlan(plan.name)}
              className="border-0 border-b border-dotted border-ink-3 bg-transparent px-0.5"
              defaultValue={plan.name}
              onBlur={(event) => {
                const name = event.target.value
                if (name !== plan.name) rename.mutate({ id: plan.id, name })
              }}
            />
            <span className="text-note text-ink-2">
              {plan.users.length > 0 ? plan.users.join(', ') : say.hours.usedNobody}
            </span>
            <button type="button" className="link text-note" onClick={() => remove.mutate(plan.id)}>
              {say.hours.remove}
            </button>
          </li>
        ))}
      </ul>
      {error && (
        <p role="alert" className="mt-1 text-note text-need">
          {error.fields.name ?? error.message}
        </p>
      )}
    </section>
  )
}

function usePlanChange<Input>(change: (input: Input) => Promise<Plan[]>) {
  const client = useQueryClient()
  return useMutation<Plan[], Refusal, Input>({
    mutationFn: change,
    onSuccess: (plans) => {
      client.setQueryData(keys.weekPlans, plans)
      void hasChanged(client, 'weekPlan')
    },
  })
}
