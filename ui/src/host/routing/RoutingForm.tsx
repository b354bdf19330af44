import type { Schemas } from '../../api/client'
import { Button } from '../../kit/kit'
import { Choice, NumberPart, Sentence } from '../rules/parts'
import { AnswerRules } from './AnswerRules'
import type { Draft } from './draft'

type Rules = Schemas['TypeRouting']

interface Props {
  draft: Draft
  view: Schemas['RoutingView']
  wrong: Record<string, string>
  onChange: (draft: Draft) => void
}

const ways: Record<Rules['way'], string> = {
  turn: 'in turn by weight',
  client: 'as the client chooses',
  order: 'in a set order',
  least: 'whoever has least booked',
  together: 'everyone together',
  some: 'some always, and one of the rest in turn',
}
const periods: Record<Rules['period'], string> = {
  always: 'all time',
  year: 'this year',
  quarter: 'this quarter',
  month: 'this month',
}
const whos: Record<Draft['who'], string> = {
  anyone: 'anyone with the link',
  organisation: 'people of the workspace who are signed in',
  nobody: 'nobody: colleagues enter it by hand',
}

/** The key of a record whose words were chosen. */
function keyOf<K extends string>(words: Record<K, string>, chosen: string): K {
  return (Object.keys(words) as K[]).find((key) => words[key] === chosen) as K
}

const somebody = 'these people'

/** The routing as sentences to compose. */
export function RoutingForm({ draft, view, wrong, onChange }: Props) {
  const { rules, who } = draft
  const saved = view.routing
  const set = (change: Partial<Rules>) => onChange({ ...draft, rules: { ...rules, ...change } })
  const team = view.teams.find((t) => t.id === rules.team)
  const joined = rules.way === 'together'
  const problems = ['team', 'people'].flatMap((field) => wrong[field] ?? [])
  return (
    <fieldset disabled={!view.edits} className="border-0">
      <Sentence
        problems={problems}
        note={!view.edits && 'Only a coordinator, or whoever made this type, can change it.'}
      >
        {joined ? 'Hosted by' : 'Hosted by one of'}{' '}
        <Choice
          label="Hosts"
          value={team?.name ?? somebody}
          options={[somebody, ...view.teams.map((t) => t.name)]}
          changed={rules.team !== saved.team}
          onChange={(name) => set({ team: view.teams.find((t) => t.name === name)?.id ?? 0 })}
        />
        ,{' '}
        <Choice
          label="How one is found"
          value={ways[rules.way]}
          options={Object.values(ways)}
          changed={rules.way !== saved.way}
          onChange={(words) => set({ way: keyOf(ways, words) })}
        />
        .
      </Sentence>
      <Pool rules={rules} view={view} set={set} />
      {!joined && (
        <Sentence problems={[]}>
          Returning clients{' '}
          <Choice
            label="Returning clients"
            value={rules.returning ? 'stay with their host' : 'are treated like new clients'}
            options={['stay with their host', 'are treated like new clients']}
            changed={rules.returning !== saved.returning}
            onChange={(words) => set({ returning: words === 'stay with their host' })}
          />
          ; count bookings from{' '}
          <Choice
            label="Count bookings from"
            value={periods[rules.period]}
            options={Object.values(periods)}
            changed={rules.period !== saved.period}
            onChange={(words) => set({ period: keyOf(periods, words) })}
          />
          .
        </Sentence>
      )}
      <AnswerRules rules={rules} view={view} problem={wrong.rules} set={set} />
      <Sentence problems={[]}>
        It can be booked by{' '}
        <Choice
          label="Who may book it"
          value={whos[who]}
          options={Object.values(whos)}
          changed={who !== view.who}
          onChange={(words) => onChange({ ...draft, who: keyOf(whos, words) })}
        />
        .
      </Sentence>
    </fieldset>
  )
}

interface PoolProps {
  rules: Rules
  view: Schemas['RoutingView']
  set: (change: Partial<Rules>) => void
}

/** Who is in the pool, in the set order, with what they weigh. */
function Pool({ rules, view, set }: PoolProps) {
  const members = rules.team ? (view.teams.find((t) => t.id === rules.team)?.members ?? []) : null
  const place = (person: number) => rules.people.find((p) => p.person === person) ?? { person, weight: 1 }
  const places = members ? members.map(place) : rules.people
  const nameOf = (person: number) => view.people.find((p) => p.id === person)?.name ?? 'somebody who has left'
  const rest = view.people.filter((p) => !places.some((q) => q.person === p.id))
  const put = (person: number, change: Partial<Schemas['PoolPlace']>) => {
    const known = rules.people.some((p) => p.person === person)
    const next = { ...place(person), ...change }
    set({ people: known ? rules.people.map((p) => (p.person === person ? next : p)) : [...rules.people, next] })
  }
  const up = (index: number) => {
    const people = [...rules.people]
    const [moved] = people.splice(index, 1)
    if (moved) people.splice(index - 1, 0, moved)
    set({ people })
  }
  const weighs = rules.way === 'turn' || rules.way === 'client' || rules.way === 'some'
  return (
    <div className="border-b border-rule py-2">
      <ol aria-label="Pool">
        {places.map(({ person, weight, always }, i) => (
          <li key={person} className="flex flex-wrap items-baseline gap-x-4 py-1">
            <span className="w-5 text-right text-note text-ink-3">{i + 1}</span>
            <span className="min-w-44">{nameOf(person)}</span>
            {weighs && (
              <span className="text-note text-ink-2">
                weight{' '}
                <NumberPart
                  label={`Weight of ${nameOf(person)}`}
                  value={weight}
                  changed={weight !== (view.routing.people.find((p) => p.person === person)?.weight ?? 1)}
                  wrong={weight < 1}
                  onChange={(value) => put(person, { weight: Math.max(1, Math.min(20, value)) })}
                />
              </span>
            )}
            {rules.way === 'some' && (
              <label className="flex items-center gap-1.5 text-note">
                <input
                  type="checkbox"
                  className="accent-act"
                  aria-label={`${nameOf(person)} always takes part`}
                  checked={always ?? false}
                  onChange={(event) => put(person, { always: event.target.checked })}
                />
                always
              </label>
            )}
            {!members && (
              <span className="ml-auto flex gap-3 text-note">
                {i > 0 && (
                  <Button kind="text" aria-label={`${nameOf(person)} earlier`} onClick={() => up(i)}>
                    Earlier
                  </Button>
                )}
                <Button
                  kind="text"
                  aria-label={`Take ${nameOf(person)} out`}
                  onClick={() => set({ people: rules.people.filter((p) => p.person !== person) })}
                >
                  Take out
                </Button>
              </span>
            )}
          </li>
        ))}
      </ol>
      {!members && rest.length > 0 && (
        <select
          aria-label="Add somebody to the pool"
          className="mt-1 ml-9 border-0 border-b border-ink-2 bg-ground px-1 py-0.5 text-note text-act"
          value=""
          onChange={(event) => set({ people: [...rules.people, { person: Number(event.target.value), weight: 1 }] })}
        >
          <option value="">Add somebody …</option>
          {rest.map((p) => (
            <option key={p.id} value={p.id}>
              {p.name}
            </option>
          ))}
        </select>
      )}
    </div>
  )
}
