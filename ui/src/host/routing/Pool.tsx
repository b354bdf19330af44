import type { Schemas } from '../../api/client'
import { Button } from '../../kit/kit'
import { Sortable } from '../../kit/Sortable'
import { say } from '../../say'
import { NumberPart } from '../rules/parts'
import { poolOf } from './pool'

type Rules = Schemas['TypeRouting']
type Place = Schemas['PoolMember']

interface Props {
  rules: Rules
  view: Schemas['RoutingView']
  set: (change: Partial<Rules>) => void
}

/** Who hosts it – everyone, teams, people beside each other – in the set order, with what they weigh. */
export function Pool({ rules, view, set }: Props) {
  const places = poolOf(rules, view)
  const nameOf = (person: number) => view.people.find((p) => p.id === person)?.name ?? say.routing.somebodyWhoHasLeft
  const put = (person: number, change: Partial<Place>) =>
    set({ people: places.map((place) => (place.person === person ? { ...place, ...change } : place)) })
  return (
    <div className="border-b border-rule py-2">
      <Groups rules={rules} view={view} set={set} />
      <Sortable
        label={say.routing.pool}
        items={places}
        keyOf={(place) => String(place.person)}
        nameOf={(place) => nameOf(place.person)}
        onOrder={(people) => set({ people })}
      >
        {(place, i) => (
          <span className="flex flex-wrap items-baseline gap-x-4 py-1">
            <span className="w-5 text-right text-note text-ink-3">{i + 1}</span>
            <span className="min-w-44">{nameOf(place.person)}</span>
            <Weight place={place} name={nameOf(place.person)} rules={rules} saved={view.routing} put={put} />
            {place.through ? (
              <span className="ml-auto text-note text-ink-2">{broughtIn(place.person, rules, view)}</span>
            ) : (
              <Button
                kind="text"
                className="ml-auto text-note"
                aria-label={say.routing.takePersonOut(nameOf(place.person))}
                onClick={() => set({ people: rules.people.filter((p) => p.person !== place.person) })}
              >
                {say.routing.takeOut}
              </Button>
            )}
          </span>
        )}
      </Sortable>
      <Add rules={rules} view={view} set={set} />
    </div>
  )
}

/** By what somebody is in the pool who was not chosen by name. */
function broughtIn(person: number, rules: Rules, view: Props['view']): string {
  const team = view.teams.find((t) => rules.teams.includes(t.id) && t.members.includes(person))
  return team ? say.routing.of(team.name) : say.routing.withEveryone
}

/** Everyone, and the teams, who host it whoever comes or goes. */
function Groups({ rules, view, set }: Props) {
  const teams = rules.teams.map((id) => ({
    id,
    name: view.teams.find((t) => t.id === id)?.name ?? say.routing.teamGone,
  }))
  return (
    <>
      {rules.everyone && <Group name={say.routing.everyoneNewcomersToo} onOut={() => set({ everyone: false })} />}
      {teams.map(({ id, name }) => (
        <Group
          key={id}
          name={say.routing.whoeverJoinsToo(name)}
          onOut={() => set({ teams: rules.teams.filter((other) => other !== id) })}
        />
      ))}
    </>
  )
}

function Group({ name, onOut }: { name: string; onOut: () => void }) {
  return (
    <p className="flex items-baseline gap-4 py-1">
      <span className="font-semibold">{name}</span>
      <Button kind="text" className="ml-auto text-note" aria-label={say.routing.takeOutTeam(name)} onClick={onOut}>
        {say.routing.takeOut}
      </Button>
    </p>
  )
}

interface WeightProps {
  place: Place
  name: string
  rules: Rules
  saved: Rules
  put: (person: number, change: Partial<Place>) => void
}

/** What somebody weighs, and whether they always take part, where the way asks for it. */
function Weight({ place, name, rules, saved, put }: WeightProps) {
  const weighs = rules.mode === 'turn' || rules.mode === 'client' || rules.mode === 'some'
  return (
    <>
      {weighs && (
        <span className="text-note text-ink-2">
          {say.routing.weight}{' '}
          <NumberPart
            label={say.routing.weightOf(name)}
            value={place.weight}
            changed={place.weight !== (saved.people.find((p) => p.person === place.person)?.weight ?? 1)}
            wrong={place.weight < 1}
            onChange={(value) => put(place.person, { weight: Math.max(1, Math.min(20, value)) })}
          />
        </span>
      )}
      {rules.mode === 'some' && (
        <label className="flex items-center gap-1.5 text-note">
          <input
            type="checkbox"
            className="accent-act"
            aria-label={say.routing.alwaysTakesPart(name)}
            checked={place.always ?? false}
            onChange={(event) => put(place.person, { always: event.target.checked })}
          />
          {say.routing.always}
        </label>
      )}
    </>
  )
}

/** Who could host it besides. Somebody whom a team brings can be chosen by name too, and then stays whatever becomes of the team. */
function Add({ rules, view, set }: Props) {
  const teams = view.teams.filter((team) => !rules.teams.includes(team.id))
  const people = view.people.filter((p) => !rules.people.some((place) => place.person === p.id && !place.through))
  const add = (chosen: string) => {
    const [kind, id] = chosen.split(' ')
    if (kind === 'everyone') set({ everyone: true })
    if (kind === 'team') set({ teams: [...rules.teams, Number(id)] })
    if (kind === 'person') set({ people: withNamed(poolOf(rules, view), Number(id)) })
  }
  if (rules.everyone && teams.length + people.length === 0) return null
  return (
    <select
      aria-label={say.routing.addSomebodyPool}
      className="mt-1 ml-9 border-0 border-b border-ink-2 bg-ground px-1 py-0.5 text-note text-act"
      value=""
      onChange={(event) => add(event.target.value)}
    >
      <option value="">{say.routing.addHosts}</option>
      {!rules.everyone && <option value="everyone">{say.routing.everyone}</option>}
      {teams.length > 0 && (
        <optgroup label={say.routing.teams}>
          {teams.map((team) => (
            <option key={team.id} value={`team ${team.id}`}>
              {team.name}
            </option>
          ))}
        </optgroup>
      )}
      <optgroup label={say.routing.people}>
        {people.map((p) => (
          <option key={p.id} value={`person ${p.id}`}>
            {p.name}
          </option>
        ))}
      </optgroup>
    </select>
  )
}

/** The pool with somebody chosen by name. */
function withNamed(places: Place[], person: number): Place[] {
  const known = places.some((place) => place.person === person)
  if (!known) return [...places, { person, weight: 1 }]
  return places.map((place) => (place.person === person ? { ...place, through: false } : place))
}
