import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { Button, Need, TextField } from '../../kit/kit'
import { say, told } from '../../say'
import { shortDateInYear, wallClock } from '../../time/time'
import { useMe } from '../queries'
import { Copy } from './Copy'
import type { Link } from './sharing'

type SharedLink = Schemas['SharedLink']

interface Props {
  type: Schemas['MeetingType']
  says: Link
  /** Takes up what a link says, to go on from it. */
  onTake: (says: Link) => void
}

/** Links with a name: what each is for, how often it was opened, how many bookings came by it. */
export function Links({ type, says, onTake }: Props) {
  const client = useQueryClient()
  const path = { id: type.id }
  const keep = (links: SharedLink[]) => client.setQueryData(keys.sharedLinks(type.id), links)
  const links = useQuery<SharedLink[], Refusal>({
    queryKey: keys.sharedLinks(type.id),
    queryFn: () => need(api.GET('/types/{id}/links', { params: { path } })),
  })
  const add = useMutation<SharedLink[], Refusal, string>({
    mutationFn: (name) => need(api.POST('/types/{id}/links', { params: { path }, body: { name, says } })),
    onSuccess: keep,
  })
  const remove = useMutation<SharedLink[], Refusal, number>({
    mutationFn: (link) => need(api.DELETE('/types/{id}/links/{link}', { params: { path: { ...path, link } } })),
    onSuccess: keep,
  })
  const put = useMutation<SharedLink[], Refusal, SharedLink>({
    mutationFn: ({ id: link, name }) =>
      need(api.PUT('/types/{id}/links/{link}', { params: { path: { ...path, link } }, body: { name, says } })),
    onSuccess: keep,
  })
  const problem = add.error ?? put.error ?? remove.error
  return (
    <section aria-labelledby="links-head" className="mt-9 max-w-3xl">
      <h2 id="links-head">{say.share.linksName}</h2>
      <p className="mt-1 text-note text-ink-2">{say.share.sayWhatLinkEach}</p>
      <NewLink onAdd={add.mutateAsync} busy={add.isPending} problem={add.error?.fields.name} />
      {problem && !problem.fields.name && <Need className="mt-2">{problem.fields.says ?? problem.message}</Need>}
      <ul aria-label={say.share.namedLinks} className="mt-3">
        {links.data?.map((link) => (
          <One
            key={link.id}
            link={link}
            onTake={onTake}
            onPut={() => put.mutate(link)}
            onRemove={() => remove.mutate(link.id)}
          />
        ))}
      </ul>
    </section>
  )
}

interface NewLinkProps {
  onAdd: (name: string) => Promise<unknown>
  busy: boolean
  problem: string | undefined
}

function NewLink({ onAdd, busy, problem }: NewLinkProps) {
  const [name, setName] = useState('')
  const add = (event: FormEvent) => {
    event.preventDefault()
    onAdd(name).then(
      () => setName(''),
      () => {}, // it is said beside the field
    )
  }
  return (
    <form onSubmit={add} className="mt-3 flex flex-wrap items-end gap-x-4 gap-y-2">
      <div className="w-72">
        <TextField
          label={say.share.whatLink}
          placeholder={say.share.autumnNewsletter}
          value={name}
          problem={problem}
          onChange={(event) => setName(event.target.value)}
        />
      </div>
      <Button type="submit" kind="plain" disabled={busy}>
        {say.share.keepWhatChosenLink}
      </Button>
    </form>
  )
}

interface OneProps {
  link: SharedLink
  onTake: Props['onTake']
  onPut: () => void
  onRemove: () => void
}

function One({ link, onTake, onPut, onRemove }: OneProps) {
  const me = useMe().data
  const zone = me?.person?.zone ?? 'UTC'
  const today = wallClock(new Date(), zone).date
  const address = location.origin + link.path
  return (
    <li className="border-t border-rule py-2.5">
      <p className="flex flex-wrap items-baseline gap-x-4">
        <b className="font-semibold wrap-anywhere">{link.name}</b>
        <span className="figures text-note text-ink-2">{say.share.openedBooked(link.opened, link.booked)}</span>
        <span className="text-note text-ink-3">
          {link.by}, {shortDateInYear(wallClock(new Date(link.created), zone).date, today)}
        </span>
      </p>
      <p className="flex flex-wrap items-baseline gap-x-4 text-note">
        <span className="wrap-anywhere text-ink-2">{address}</span>
        <Copy text={{ plain: address }} words={say.share.copy} kind="text" />
        <Button
          kind="text"
          className="text-note"
          aria-label={say.share.takeUp(link.name)}
          onClick={() => onTake(link.says)}
        >
          {say.share.takeUpChoices}
        </Button>
        <Button kind="text" className="text-note" aria-label={say.share.changeLink(link.name)} onClick={onPut}>
          {say.share.letSayWhatChosen}
        </Button>
        <Button kind="text" className="text-note" aria-label={say.share.removeLink(link.name)} onClick={onRemove}>
          {say.share.remove}
        </Button>
      </p>
      {link.misfits.length > 0 && (
        <p className="text-note text-need">{say.share.noPlaceAnyMore(link.misfits.map(told).join(', '))}</p>
      )}
    </li>
  )
}
