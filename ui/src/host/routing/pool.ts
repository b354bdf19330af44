import type { Schemas } from '../../api/client'

type Place = Schemas['PoolMember']

/** Who is in the pool, in the set order, as the server has it: those whom the routing names, then the rest of its teams and of everyone. */
export function poolOf(rules: Schemas['TypeRouting'], view: Pick<Schemas['RoutingView'], 'people' | 'teams'>): Place[] {
  const brought = broughtBy(rules, view)
  const named = rules.people.filter((place) => !place.through || brought.includes(place.person))
  const rest = brought.filter((person) => !named.some((place) => place.person === person))
  return [...named, ...rest.map((person) => ({ person, weight: 1, through: true }))]
}

/** Whom teams and everyone bring into the pool. */
function broughtBy(rules: Schemas['TypeRouting'], view: Pick<Schemas['RoutingView'], 'people' | 'teams'>): number[] {
  const teams = rules.teams.flatMap((id) => view.teams.find((team) => team.id === id)?.members ?? [])
  const all = rules.everyone ? view.people.filter((person) => person.bookable).map((person) => person.id) : []
  return [...new Set([...teams, ...all])]
}
