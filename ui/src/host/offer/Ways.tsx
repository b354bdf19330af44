import type { Schemas } from '../../api/client'
import { Button, Need, SelectField, TextArea, TextField } from '../../kit/kit'
import { Sortable } from '../../kit/Sortable'
import { freshID } from './fresh'

type Way = Schemas['Way']

const kinds: Record<Way['kind'], string> = {
  video: 'by video, a fresh room for each',
  'own-room': 'by video, in a room of your own',
  ours: 'at our own address',
  theirs: 'at the client’s address',
  phone: 'by phone',
  later: 'agreed later',
}

interface Props {
  ways: Way[]
  wrong: Record<string, string>
  onChange: (ways: Way[]) => void
}

/** The ways of meeting; with several, the client chooses, and the first is offered first. */
export function Ways({ ways, wrong, onChange }: Props) {
  const set = (id: string, change: Partial<Way>) => onChange(ways.map((w) => (w.id === id ? { ...w, ...change } : w)))
  return (
    <>
      <Sortable
        items={ways}
        keyOf={(way) => way.id}
        nameOf={(way) => kinds[way.kind]}
        onOrder={onChange}
        label="Ways of meeting"
      >
        {(way, i) => (
          <div className="grid items-start gap-4 border-t border-rule py-2 sm:grid-cols-[17rem_1fr_auto]">
            <SelectField
              label={`Location ${i + 1}`}
              value={way.kind}
              onChange={(event) => set(way.id, { kind: event.target.value as Way['kind'] })}
            >
              {Object.entries(kinds).map(([kind, words]) => (
                <option key={kind} value={kind}>
                  {words}
                </option>
              ))}
            </SelectField>
            <Needs way={way} problem={wrong[`ways.${i}`]} onChange={(change) => set(way.id, change)} />
            <button
              type="button"
              className="link pt-6 text-note"
              aria-label={`Remove way ${i + 1}`}
              onClick={() => onChange(ways.filter((w) => w.id !== way.id))}
            >
              Remove
            </button>
          </div>
        )}
      </Sortable>
      {wrong.ways && <Need className="mb-2">{wrong.ways}</Need>}
      <p className="mt-2">
        <Button kind="plain" onClick={() => onChange([...ways, { id: freshID(ways), kind: 'phone', calls: 'host' }])}>
          Add a location
        </Button>
      </p>
    </>
  )
}

/** What a way of meeting needs to be told. */
function Needs({
  way,
  problem,
  onChange,
}: {
  way: Way
  problem: string | undefined
  onChange: (c: Partial<Way>) => void
}) {
  const text = {
    value: way.text ?? '',
    problem,
    onChange: (e: { target: { value: string } }) => onChange({ text: e.target.value }),
  }
  switch (way.kind) {
    case 'ours':
      return <TextArea label="Address, and how to find it" rows={2} {...text} />
    case 'own-room':
      return <TextField label="The room’s address" type="url" {...text} />
    case 'phone':
      return (
        <div className="grid gap-3">
          <SelectField
            label="Who calls"
            value={way.calls ?? 'host'}
            onChange={(event) => onChange({ calls: event.target.value as 'host' | 'client' })}
          >
            <option value="host">we call the client</option>
            <option value="client">the client calls us</option>
          </SelectField>
          {way.calls === 'client' && <TextField label="Our number" {...text} />}
        </div>
      )
    case 'video':
      return <RoomOptions way={way} onChange={onChange} />
    default:
      return <span />
  }
}

const options = {
  waitingRoom: 'the host lets everybody in',
  passcode: 'with a passcode',
  nameRequired: 'everybody gives a name',
  recordingNotice: 'it is recorded, and the client is told',
} as const

/** What a fresh room should be like. */
function RoomOptions({ way, onChange }: { way: Way; onChange: (c: Partial<Way>) => void }) {
  return (
    <fieldset>
      <legend className="text-note text-ink-2">The room</legend>
      {(Object.keys(options) as (keyof typeof options)[]).map((option) => (
        <label key={option} className="mr-4 inline-flex items-center gap-1.5 text-note">
          <input
            type="checkbox"
            className="accent-act"
            checked={way.room?.[option] ?? false}
            onChange={(event) => onChange({ room: { ...way.room, [option]: event.target.checked } })}
          />
          {options[option]}
        </label>
      ))}
    </fieldset>
  )
}
