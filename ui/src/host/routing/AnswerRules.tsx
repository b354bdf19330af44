import { Fragment } from 'react'
import type { Schemas } from '../../api/client'
import { Button } from '../../kit/kit'
import { Choice, partLook, Sentence } from '../rules/parts'

type Rules = Schemas['TypeRouting']
type Rule = Schemas['AnswerRule']

interface Props {
  rules: Rules
  view: Schemas['RoutingView']
  problem: string | undefined
  set: (change: Partial<Rules>) => void
}

const whoeverHasIt = 'whoever has it'

/** "If language is Dutch, then Maren": before anything else, answers can point to hosts. */
export function AnswerRules({ rules, view, problem, set }: Props) {
  const known = [...new Set(view.people.flatMap((p) => Object.keys(p.attributes)))]
  const put = (index: number, change: Partial<Rule>) =>
    set({ rules: rules.rules.map((r, i) => (i === index ? { ...r, ...change } : r)) })
  return (
    <>
      {rules.rules.map((rule, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: the order of the rules is what they are known by
        <Sentence key={i} problems={[]}>
          <OneRule index={i} rule={rule} view={view} known={known} put={(change) => put(i, change)} />{' '}
          <Button
            kind="text"
            className="text-note"
            aria-label={`Remove rule ${i + 1}`}
            onClick={() => set({ rules: rules.rules.filter((_, k) => k !== i) })}
          >
            Remove
          </Button>
        </Sentence>
      ))}
      <Sentence problems={problem ? [problem] : []}>
        {rules.rules.length > 0 && (
          <>
            Where no rule fits,{' '}
            <Choice
              label="Where no rule fits"
              value={rules.strict ? 'nobody takes it' : 'whoever of them takes it'}
              options={['whoever of them takes it', 'nobody takes it']}
              changed={rules.strict !== view.routing.strict}
              onChange={(words) => set({ strict: words === 'nobody takes it' })}
            />
            .{' '}
          </>
        )}
        <Button
          kind="text"
          className="text-note"
          onClick={() =>
            set({ rules: [...rules.rules, { attribute: known[0] ?? 'language', values: [], people: [] }] })
          }
        >
          {rules.rules.length ? 'Another answer decides' : 'Let an answer decide'}
        </Button>
      </Sentence>
    </>
  )
}

interface OneProps {
  index: number
  rule: Rule
  view: Schemas['RoutingView']
  known: string[]
  put: (change: Partial<Rule>) => void
}

function OneRule({ index, rule, view, known, put }: OneProps) {
  const before = view.routing.rules[index]
  const changed = JSON.stringify(before) !== JSON.stringify(rule)
  const listed = [...new Set(view.people.flatMap((p) => p.attributes[rule.attribute] ?? []))]
  return (
    <>
      If{' '}
      <input
        aria-label={`Rule ${index + 1}: what is asked`}
        list="known-attributes"
        className={partLook(changed, rule.attribute.trim() === '')}
        value={rule.attribute}
        onChange={(event) => put({ attribute: event.target.value })}
      />{' '}
      is{' '}
      <input
        aria-label={`Rule ${index + 1}: answers, with commas between`}
        list={`known-values-${index}`}
        placeholder="answers"
        className={partLook(changed, rule.values.length === 0)}
        value={rule.values.join(',')}
        onChange={(event) => put({ values: event.target.value === '' ? [] : event.target.value.split(',') })}
      />
      , then <Targets index={index} rule={rule} view={view} changed={changed} put={put} />.
      <datalist id="known-attributes">
        {known.map((name) => (
          <option key={name}>{name}</option>
        ))}
      </datalist>
      <datalist id={`known-values-${index}`}>
        {listed.map((value) => (
          <option key={value}>{value}</option>
        ))}
      </datalist>
    </>
  )
}

const nobodyElse = 'nobody else'

/** Whoever has the attribute, or one or several people by name. */
function Targets({ index, rule, view, changed, put }: Omit<OneProps, 'known'> & { changed: boolean }) {
  const names = view.people.map((p) => p.name)
  const nameOf = (id: number) => view.people.find((p) => p.id === id)?.name ?? 'somebody who has left'
  const choose = (place: number, name: string) => {
    const person = view.people.find((p) => p.name === name)?.id
    const people = rule.people.filter((id, k) => k !== place && id !== person)
    if (person) people.splice(place, 0, person)
    put({ people })
  }
  const places = [...rule.people.map(nameOf), rule.people.length ? nobodyElse : whoeverHasIt]
  return places.map((name, place) => (
    // biome-ignore lint/suspicious/noArrayIndexKey: a place in the list is what it is known by
    <Fragment key={place}>
      {place > 0 && ' or '}
      <Choice
        label={`Rule ${index + 1}: who takes it${place > 0 ? `, or ${place + 1}` : ''}`}
        value={name}
        options={[place > 0 ? nobodyElse : whoeverHasIt, ...names, ...(names.includes(name) ? [] : [name])].filter(
          (option, i, all) => all.indexOf(option) === i,
        )}
        changed={changed}
        onChange={(to) => choose(place, to)}
      />
    </Fragment>
  ))
}
