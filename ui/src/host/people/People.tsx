import { useState } from 'react'
import type { Schemas } from '../../api/client'
import { Button } from '../../kit/kit'
import { say, told } from '../../say'
import { placeOf } from '../../time/time'
import { Initials } from '../Initials'
import { useStaff } from '../queries'
import { Unread, View } from '../Shell'
import { Undo } from '../Undo'
import { useAnchor } from '../useAnchor'
import { Away } from './Away'
import { Invite } from './Invite'
import { PersonForm } from './PersonForm'
import { Teams } from './Teams'

type Staff = Schemas['Staff']

const does: Record<Schemas['Person']['role'], string> = {
  owner: say.people.owner,
  coordinator: say.people.coordinator,
  member: say.people.member,
  viewer: say.people.looksOnly,
}

/** Who works here, what they may do, and how their bookings go over to others. */
export function People() {
  const staff = useStaff()
  useAnchor(staff.isSuccess)
  if (!staff.data) return <Unread error={staff.error} />
  const { people, teams, invited, manages, edits } = staff.data
  return (
    <View
      title={say.people.people}
      note={say.people.workspace(people.length)}
      actions={<Undo />}
      aside={
        <>
          <Teams teams={teams} people={people} edits={edits} />
          {manages && <Invite invited={invited} />}
        </>
      }
      asideWidth="23.7rem"
    >
      <ul className="max-w-4xl">
        {people.map((person) => (
          <PersonRow key={person.id} person={person} staff={staff.data} />
        ))}
      </ul>
    </View>
  )
}

type Opened = 'nothing' | 'details' | 'away'

function PersonRow({ person, staff }: { person: Schemas['Colleague']; staff: Staff }) {
  const [opened, setOpened] = useState<Opened>('nothing')
  const known = Object.entries(person.attributes).map(([name, values]) => `${name}: ${values.join(', ')}`)
  return (
    <li id={`person-${person.id}`} className="border-t border-rule py-3">
      <div className="grid items-baseline gap-x-5 gap-y-1 sm:grid-cols-[2.2rem_1fr_6rem_10.5rem]">
        {person.photo ? (
          <img src={`/i/${person.photo}`} alt="" className="size-8 self-center rounded-full object-cover" />
        ) : (
          <Initials name={person.name} />
        )}
        <div>
          <h2 className="font-text text-[16.5px] font-semibold">{person.name}</h2>
          <p className="text-note text-ink-2">
            {say.people.there(placeOf(person.zone), person.now)}
            {person.teams.length > 0 && ` · ${person.teams.join(', ')}`}
            {known.length > 0 && ` · ${known.join(' · ')}`}
          </p>
          {(person.leave || !person.bookable) && (
            <p className="text-note text-ink">
              {[told(person.leave), !person.bookable && say.people.takesNoBookings].filter(Boolean).join(' · ')}
            </p>
          )}
        </div>
        <span className="text-note text-ink-2">
          {does[person.role]}
          <br />
          <span className="figures">{say.people.coming(person.holds)}</span>
        </span>
        <span className="flex flex-wrap items-baseline justify-end gap-x-3 text-note">
          {!person.noPage && (
            <a href={`/share/person/${person.id}`} aria-label={say.people.sharePerson(person.name)}>
              {say.people.share}
            </a>
          )}
          {staff.edits && (
            <a href={`/hours?for=${person.id}`} aria-label={say.people.hoursOf(person.name)}>
              {say.people.hours}
            </a>
          )}
          {staff.edits && (
            <Button
              kind="text"
              aria-expanded={opened === 'details'}
              onClick={() => setOpened(opened === 'details' ? 'nothing' : 'details')}
              aria-label={say.people.changePerson(person.name)}
            >
              {say.people.change}
            </Button>
          )}
          {staff.edits && (
            <Button kind="text" onClick={() => setOpened('away')} aria-label={say.people.isAway(person.name)}>
              {say.people.away}
            </Button>
          )}
        </span>
      </div>
      {opened === 'details' && (
        <PersonForm person={person} manages={staff.manages} onDone={() => setOpened('nothing')} />
      )}
      {opened === 'away' && <Away person={person} onDone={() => setOpened('nothing')} />}
    </li>
  )
}
