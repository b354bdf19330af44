import { type FormEvent, useState } from 'react'
import { api, need, type Schemas } from '../../api/client'
import { Ask } from '../../kit/Ask'
import { Button, Need, SelectField, TextField } from '../../kit/kit'
import { ZoneOptions } from '../../kit/ZoneOptions'
import { say } from '../../say'
import { Picture } from '../looks/Picture'
import { useStaffChange } from '../queries'
import { attributesOf, attributesText } from './attributes'

interface Props {
  person: Schemas['Colleague']
  manages: boolean
  onDone: () => void
}

export const roles: [Schemas['Person']['role'], string][] = [
  ['owner', say.people.ownerEverything],
  ['coordinator', say.people.coordinatorEverybodysTypesBookings],
  ['member', say.people.memberTheirOwnTypes],
  ['viewer', say.people.viewerLooksOnly],
]

/** What colleagues know about somebody, and what they may do. */
export function PersonForm({ person, manages, onDone }: Props) {
  const [draft, setDraft] = useState({ ...person, text: attributesText(person.attributes) })
  const read = attributesOf(draft.text)
  const [leaving, setLeaving] = useState(false)
  const save = useStaffChange((body: Schemas['PersonChange']) =>
    need(api.PUT('/staff/{id}', { params: { path: { id: person.id } }, body })),
  )
  const remove = useStaffChange(() => need(api.DELETE('/staff/{id}', { params: { path: { id: person.id } } })))
  const submit = (event: FormEvent) => {
    event.preventDefault()
    const { name, zone, slug, role, bookable, noPage, photo } = draft
    if (read.unread === undefined)
      save.mutate(
        { name, zone, slug, role, bookable, noPage, photo, attributes: read.attributes },
        { onSuccess: onDone },
      )
  }
  const wrong = save.error?.fields ?? {}
  const unread = read.unread && say.people.saysNothingYetWrite(read.unread)
  return (
    <form onSubmit={submit} noValidate aria-label={person.name} className="my-3 grid gap-3 bg-sheet p-4 sm:grid-cols-2">
      <TextField
        label={say.people.name}
        value={draft.name}
        problem={wrong.name}
        onChange={(event) => setDraft({ ...draft, name: event.target.value })}
      />
      <SelectField
        label={say.people.timeZone}
        value={draft.zone}
        onChange={(event) => setDraft({ ...draft, zone: event.target.value })}
      >
        <ZoneOptions own={person.zone} />
      </SelectField>
      <TextField
        label={say.people.shortNameTheirOwn}
        hint={
          <a href={`/p/${person.workspace}/with/${person.slug}`} target="_blank" rel="noreferrer">
            {`/p/${person.workspace}/with/${person.slug}`}
          </a>
        }
        value={draft.slug}
        problem={wrong.slug}
        onChange={(event) => setDraft({ ...draft, slug: event.target.value })}
      />
      <Picture label={say.people.photo} hash={draft.photo ?? ''} onChange={(photo) => setDraft({ ...draft, photo })} />
      <div className="sm:col-span-2">
        <TextField
          label={say.people.attributes}
          placeholder={say.people.languageEnglishDutchRegion}
          hint={say.people.meetingTypesCanLead}
          value={draft.text}
          problem={unread ?? wrong.attributes}
          onChange={(event) => setDraft({ ...draft, text: event.target.value })}
        />
      </div>
      {manages && (
        <SelectField
          label={say.people.role}
          value={draft.role}
          onChange={(event) => setDraft({ ...draft, role: event.target.value as Schemas['Person']['role'] })}
        >
          {roles.map(([role, words]) => (
            <option key={role} value={role}>
              {words}
            </option>
          ))}
        </SelectField>
      )}
      <div className="grid content-end gap-1 pb-1">
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            className="accent-act"
            checked={draft.bookable}
            onChange={(event) => setDraft({ ...draft, bookable: event.target.checked })}
          />
          {say.people.takesBookings}
        </label>
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            className="accent-act"
            checked={!draft.noPage}
            onChange={(event) => setDraft({ ...draft, noPage: !event.target.checked })}
          />
          {say.people.hasPageTheirOwn}
        </label>
      </div>
      {(save.error ?? remove.error) && <Need className="sm:col-span-2">{(save.error ?? remove.error)?.message}</Need>}
      <div className="flex items-baseline gap-3 sm:col-span-2">
        <Button type="submit" disabled={save.isPending}>
          {say.people.save}
        </Button>
        <Button kind="plain" onClick={onDone}>
          {say.people.discardChanges}
        </Button>
        {manages && (
          <Button kind="text" className="ml-auto" onClick={() => setLeaving(true)}>
            {say.people.removeFromWorkspace}
          </Button>
        )}
      </div>
      <Ask
        open={leaving}
        title={say.people.removePerson(person.name)}
        yes={say.people.remove}
        no={say.people.keep}
        onYes={() => {
          setLeaving(false)
          remove.mutate(undefined)
        }}
        onNo={() => setLeaving(false)}
      >
        {person.holds > 0 ? say.people.comingBookingsStillTheirs(person.holds) : say.people.theyCantSignAny}
      </Ask>
    </form>
  )
}
