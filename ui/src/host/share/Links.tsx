import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { keys } from '../../api/keys'
import { Button, Need, TextField } from '../../kit/kit'
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
      <h2 id="links-head">Links with a name</h2>
      <p className="mt-1 text-note text-ink-2">
        Say what a link is for, and each booking that comes by it carries that name. Openings are counted, not who
        opens.
      </p>
      <NewLink onAdd={add.mutateAsync} busy={add.isPending} problem={add.error?.fields.name} />
      {problem && !problem.fields.name && <Need className="mt-2">{problem.fields.says ?? problem.message}</Need>}
      <ul aria-label="Named links" className="mt-3">
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
          label="What the link is for"
          placeholder="autumn newsletter"
          value={name}
          problem={problem}
          onChange={(event) => setName(event.target.value)}
        />
      </div>
      <Button type="submit" kind="plain" disabled={busy}>
        Keep what is chosen as a link
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
        <span className="figures text-note text-ink-2">
          opened {link.opened === 1 ? 'once' : `${link.opened} times`}, {link.booked} booked
        </span>
        <span className="text-note text-ink-3">
          {link.by}, {shortDateInYear(wallClock(new Date(link.created), zone).date, today)}
        </span>
      </p>
      <p className="flex flex-wrap items-baseline gap-x-4 text-note">
        <span className="wrap-anywhere text-ink-2">{address}</span>
        <Copy text={{ plain: address }} words="Copy" kind="text" />
        <Button kind="text" className="text-note" aria-label={`Take up ${link.name}`} onClick={() => onTake(link.says)}>
          Take up its choices
        </Button>
        <Button kind="text" className="text-note" aria-label={`Change ${link.name}`} onClick={onPut}>
          Let it say what is chosen above
        </Button>
        <Button kind="text" className="text-note" aria-label={`Remove ${link.name}`} onClick={onRemove}>
          Remove
        </Button>
      </p>
      {link.misfits.length > 0 && (
        <p className="text-note text-need">The page has no place any more for {link.misfits.join(', ')}.</p>
      )}
    </li>
  )
}
