import { Fragment } from 'react'
import type { Schemas } from '../../api/client'
import { Button } from '../../kit/kit'
import { say } from '../../say'
import { Choice, pairs, partLook, Sentence } from '../rules/parts'

type Rules = Schemas['TypeRouting']
type Rule = Schemas['AnswerRule']

interface Props {
  rules: Rules
  view: Schemas['RoutingView']
  problem: string | undefined
  set: (change: Partial<Rules>) => void
}

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
            aria-label={say.routing.removeRule(i + 1)}
            onClick={() => set({ rules: rules.rules.filter((_, k) => k !== i) })}
          >
            {say.routing.remove}
          </Button>
        </Sentence>
      ))}
      <Sentence problems={problem ? [problem] : []}>
        {rules.rules.length > 0 && (
          <>
            {say.routing.whereNoRuleFits}{' '}
            <Choice
              label={say.routing.whereNoRuleFitsLabel}
              value={rules.strict ? 'nobody' : 'whoever'}
              options={pairs({ whoever: say.routing.whoeverThemTakes, nobody: say.routing.nobodyTakes })}
              changed={rules.strict !== view.routing.strict}
              onChange={(words) => set({ strict: words === 'nobody' })}
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
          {rules.rules.length ? say.routing.anotherAnswerDecides : say.routing.letAnswerDecide}
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
      {say.routing.ifAnswer}{' '}
      <input
        aria-label={say.routing.ruleWhatAsked(index + 1)}
        list="known-attributes"
        className={partLook(changed, rule.attribute.trim() === '')}
        value={rule.attribute}
        onChange={(event) => put({ attribute: event.target.value })}
      />{' '}
      {say.routing.is}{' '}
      <input
        aria-label={say.routing.ruleAnswersCommasBetween(index + 1)}
        list={`known-values-${index}`}
        placeholder={say.routing.answersWanted}
        className={partLook(changed, rule.values.length === 0)}
        value={rule.values.join(',')}
        onChange={(event) => put({ values: event.target.value === '' ? [] : event.target.value.split(',') })}
      />
      {say.routing.pointsTo(<Targets index={index} rule={rule} view={view} changed={changed} put={put} />)}
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

/** Whoever has the attribute, or one or several people by name. */
function Targets({ index, rule, view, changed, put }: Omit<OneProps, 'known'> & { changed: boolean }) {
  const people: [string, string][] = view.people.map((p) => [String(p.id), p.name])
  const left = (person: number) => (person === 0 || view.people.some((p) => p.id === person) ? [] : [person])
  const choose = (place: number, person: number) => {
    const people = rule.people.filter((id, k) => k !== place && id !== person)
    if (person) people.splice(place, 0, person)
    put({ people })
  }
  return [...rule.people, 0].map((person, place) => (
    // biome-ignore lint/suspicious/noArrayIndexKey: a place in the list is what it is known by
    <Fragment key={place}>
      {place > 0 && say.routing.or}
      <Choice
        label={say.routing.ruleWhoTakes(index + 1, place + 1)}
        value={String(person)}
        options={[
          ['0', place > 0 ? say.routing.nobodyElse : say.routing.whoeverHas],
          ...people,
          ...left(person).map((id): [string, string] => [String(id), say.routing.somebodyWhoHasLeft]),
        ]}
        changed={changed}
        onChange={(to) => choose(place, Number(to))}
      />
    </Fragment>
  ))
}
