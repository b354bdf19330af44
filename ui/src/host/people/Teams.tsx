import { type FormEvent, useState } from 'react'
import { api, need, type Schemas } from '../../api/client'
import { Button, Need, TextField } from '../../kit/kit'
import { say } from '../../say'
import { useStaffChange } from '../queries'

interface Props {
  teams: Schemas['Team'][]
  people: Schemas['Colleague'][]
  edits: boolean
}

/** Named groups of people, that meeting types can be hosted by and the board can be narrowed to. */
export function Teams({ teams, people, edits }: Props) {
  const [opened, setOpened] = useState<number | null>(null)
  const names = (ids: number[]) => people.filter((p) => ids.includes(p.id)).map((p) => p.name.split(' ')[0])
  return (
    <section aria-labelledby="teams-head">
      <h2 id="teams-head">{say.people.teams}</h2>
      {teams.length === 0 && <p className="mt-1 text-note text-ink-2">{say.people.noneYetTeamCan}</p>}
      {teams.map((team) => (
        <div key={team.id} className="border-b border-rule py-2">
          <p className="flex items-baseline justify-between gap-3">
            <b className="font-semibold">{team.name}</b>
            <a
              href={`/share/team/${team.id}`}
              aria-label={say.people.shareTeam(team.name)}
              className="ml-auto text-note"
            >
              {say.people.share}
            </a>
            {edits && (
              <Button
                kind="text"
                className="text-note"
                aria-label={say.people.changeTeam(team.name)}
                onClick={() => setOpened(team.id)}
              >
                {say.people.change}
              </Button>
            )}
          </p>
          <p className="text-note text-ink-2">{names(team.members).join(', ') || say.people.nobodyYet}</p>
          {opened === team.id && <TeamForm team={team} people={people} onDone={() => setOpened(null)} />}
        </div>
      ))}
      {edits &&
        (opened === 0 ? (
          <TeamForm team={{ id: 0, name: '', slug: '', members: [] }} people={people} onDone={() => setOpened(null)} />
        ) : (
          <p className="mt-2">
            <Button kind="text" onClick={() => setOpened(0)}>
              {say.people.newTeam}
            </Button>
          </p>
        ))}
    </section>
  )
}

function TeamForm({
  team,
  people,
  onDone,
}: {
  team: Schemas['Team']
  people: Schemas['Colleague'][]
  onDone: () => void
}) {
  const [draft, setDraft] = useState(team)
  const save = useStaffChange((body: Schemas['TeamChange']) =>
    team.id
      ? need(api.PUT('/teams/{id}', { params: { path: { id: team.id } }, body }))
      : need(api.POST('/teams', { body })),
  )
  const remove = useStaffChange(() => need(api.DELETE('/teams/{id}', { params: { path: { id: team.id } } })))
  const submit = (event: FormEvent) => {
    event.preventDefault()
    save.mutate({ name: draft.name, slug: draft.slug, members: draft.members }, { onSuccess: onDone })
  }
  const error = save.error ?? remove.error
  return (
    <form onSubmit={submit} noValidate aria-label={team.name || say.people.newTeam} className="mt-2 grid gap-2">
      <TextField
        label={say.people.nameTeam}
        value={draft.name}
        problem={save.error?.fields.name}
        onChange={(event) => setDraft({ ...draft, name: event.target.value })}
      />
      {team.id > 0 && (
        <TextField
          label={say.people.shortNameAddressPage}
          hint={say.people.addressesOldOneGo}
          value={draft.slug}
          problem={save.error?.fields.slug}
          onChange={(event) => setDraft({ ...draft, slug: event.target.value })}
        />
      )}
      {people.map((p) => (
        <label key={p.id} className="flex items-center gap-1.5">
          <input
            type="checkbox"
            className="accent-act"
            checked={draft.members.includes(p.id)}
            onChange={(event) =>
              setDraft({
                ...draft,
                members: event.target.checked ? [...draft.members, p.id] : draft.members.filter((id) => id !== p.id),
              })
            }
          />
          {p.name}
        </label>
      ))}
      {error && !save.error?.fields.name && !save.error?.fields.slug && <Need>{error.message}</Need>}
      <p className="flex items-baseline gap-3">
        <Button type="submit" disabled={save.isPending}>
          {say.people.saveTeam}
        </Button>
        <Button kind="text" onClick={onDone}>
          {say.people.discardChanges}
        </Button>
        {team.id !== 0 && (
          <Button kind="text" className="ml-auto" onClick={() => remove.mutate(undefined, { onSuccess: onDone })}>
            {say.people.remove}
          </Button>
        )}
      </p>
    </form>
  )
}
