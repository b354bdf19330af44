import type { Schemas } from '../../api/client'
import { SelectField, TextArea } from '../../kit/kit'
import { say } from '../../say'
import { kinds, Needs } from './Ways'

type Details = Schemas['SessionDetails']
type Kind = Schemas['Way']['kind']

interface Props {
  details: Details
  wrong: Record<string, string>
  onChange: (details: Details) => void
}

/** What is special about a session: words for its clients, and where it is, if not where the type says. */
export function OwnDetails({ details, wrong, onChange }: Props) {
  const { way, ...rest } = details
  const choose = (kind: Kind | '') => {
    if (kind === '') return onChange(rest)
    onChange({ ...rest, way: { id: 'own', kind, ...(kind === 'phone' ? { calls: 'client' } : {}) } })
  }
  return (
    <div className="grid gap-3">
      <TextArea
        label={say.bookingPage.aboutDate}
        rows={2}
        problem={wrong.about}
        value={details.about ?? ''}
        onChange={(event) => onChange({ ...details, about: event.target.value })}
      />
      <SelectField
        label={say.bookingPage.ownLocation}
        value={way?.kind ?? ''}
        onChange={(event) => choose(event.target.value as Kind | '')}
      >
        <option value="">{say.bookingPage.asTypeSays}</option>
        {(Object.keys(kinds) as Kind[])
          .filter((kind) => kind !== 'theirs') // they share one
          .map((kind) => (
            <option key={kind} value={kind}>
              {kinds[kind]}
            </option>
          ))}
      </SelectField>
      {way && (
        <Needs way={way} problem={wrong.way} onChange={(change) => onChange({ ...rest, way: { ...way, ...change } })} />
      )}
    </div>
  )
}
