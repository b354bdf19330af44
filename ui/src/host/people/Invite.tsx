import { type FormEvent, useEffect } from 'react'
import { api, need, type Schemas } from '../../api/client'
import { Button, Need, SelectField, TextField } from '../../kit/kit'
import { say } from '../../say'
import { longDate } from '../../time/time'
import { useStaffChange } from '../queries'
import { useKept } from '../useKept'
import { roles } from './PersonForm'

const nobody: Schemas['NewInvitation'] = { name: '', mail: '', role: 'member' }

/** Invites somebody by mail, and lists those who have not come yet. */
export function Invite(props: { invited: Schemas['Invitation'][]; onTyped?: (name: string) => void }) {
  const { invited, onTyped } = props
  const [who, setWho] = useKept('invitation', nobody)
  const typed = who.name || who.mail
  useEffect(() => onTyped?.(typed), [typed, onTyped])
  const invite = useStaffChange((body: Schemas['NewInvitation']) => need(api.POST('/invitations', { body })))
  const withdraw = useStaffChange((id: number) => need(api.DELETE('/invitations/{id}', { params: { path: { id } } })))
  const submit = (event: FormEvent) => {
    event.preventDefault()
    invite.mutate(who, { onSuccess: () => setWho(nobody) })
  }
  const wrong = invite.error?.fields ?? {}
  const set = (change: Partial<typeof nobody>) => {
    invite.reset()
    setWho({ ...who, ...change })
  }
  return (
    <section id="invite" aria-labelledby="invite-head" className="mt-8">
      <h2 id="invite-head">{say.people.inviteColleague}</h2>
      <form onSubmit={submit} noValidate className="mt-2 grid gap-3">
        <TextField
          label={say.people.name}
          value={who.name}
          problem={wrong.name}
          onChange={(event) => set({ name: event.target.value })}
        />
        <TextField
          label={say.people.mail}
          type="email"
          value={who.mail}
          problem={wrong.mail}
          onChange={(event) => set({ mail: event.target.value })}
        />
        <SelectField
          label={say.people.as}
          value={who.role}
          onChange={(event) => set({ role: event.target.value as Schemas['Person']['role'] })}
        >
          {roles.map(([role, words]) => (
            <option key={role} value={role}>
              {words}
            </option>
          ))}
        </SelectField>
        {invite.error && !wrong.name && !wrong.mail && <Need>{invite.error.message}</Need>}
        <p>
          <Button type="submit" disabled={invite.isPending}>
            {say.people.sendInvitation}
          </Button>
        </p>
      </form>
      <ul className="mt-3">
        {invited.map(({ id, name, mail, expires, expired }) => (
          <li key={id} className="flex items-baseline justify-between gap-3 border-t border-rule py-1.5 text-note">
            <span>
              {name}, {mail}
              <span className="block text-ink-2">
                {expired ? say.people.hasExpired : say.people.validUntil(longDate(expires.slice(0, 10)))}
              </span>
            </span>
            <Button kind="text" aria-label={say.people.withdrawInvitation(name)} onClick={() => withdraw.mutate(id)}>
              {say.people.withdraw}
            </Button>
          </li>
        ))}
      </ul>
    </section>
  )
}
