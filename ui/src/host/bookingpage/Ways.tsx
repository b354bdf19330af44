import type { Schemas } from '../../api/client'
import { Button, Need, SelectField, TextArea, TextField } from '../../kit/kit'
import { Sortable } from '../../kit/Sortable'
import { say } from '../../say'
import { freshID } from './fresh'

type Way = Schemas['Way']

/** The kinds of locations, in words. */
export const kinds: Record<Way['kind'], string> = {
  video: say.bookingPage.videoFreshRoomEach,
  'own-room': say.bookingPage.videoRoomYourOwn,
  ours: say.bookingPage.ourOwnAddress,
  theirs: say.bookingPage.clientsAddress,
  phone: say.bookingPage.phone,
  later: say.bookingPage.agreedLater,
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
        label={say.bookingPage.waysMeeting}
      >
        {(way, i) => (
          <div className="grid items-start gap-4 border-t border-rule py-2 sm:grid-cols-[17rem_1fr_auto]">
            <SelectField
              label={say.bookingPage.locationNumber(i + 1)}
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
              aria-label={say.bookingPage.removeWay(i + 1)}
              onClick={() => onChange(ways.filter((w) => w.id !== way.id))}
            >
              {say.bookingPage.remove}
            </button>
          </div>
        )}
      </Sortable>
      {wrong.ways && <Need className="mb-2">{wrong.ways}</Need>}
      <p className="mt-2">
        <Button kind="plain" onClick={() => onChange([...ways, { id: freshID(ways), kind: 'phone', calls: 'host' }])}>
          {say.bookingPage.addLocation}
        </Button>
      </p>
    </>
  )
}

/** What a way of meeting needs to be told. */
export function Needs({
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
      return <TextArea label={say.bookingPage.addressHowFind} rows={2} {...text} />
    case 'own-room':
      return <TextField label={say.bookingPage.roomsAddress} type="url" {...text} />
    case 'phone':
      return (
        <div className="grid gap-3">
          <SelectField
            label={say.bookingPage.whoCalls}
            value={way.calls ?? 'host'}
            onChange={(event) => onChange({ calls: event.target.value as 'host' | 'client' })}
          >
            <option value="host">{say.bookingPage.weCallClient}</option>
            <option value="client">{say.bookingPage.clientCallsUs}</option>
          </SelectField>
          {way.calls === 'client' && <TextField label={say.bookingPage.ourNumber} {...text} />}
        </div>
      )
    case 'video':
      return <RoomOptions way={way} onChange={onChange} />
    default:
      return <span />
  }
}

const options = {
  waitingRoom: say.bookingPage.hostLetsEverybody,
  passcode: say.bookingPage.passcode,
  nameRequired: say.bookingPage.everybodyGivesName,
  recordingNotice: say.bookingPage.recordedClientTold,
} as const

/** What a fresh room should be like. */
function RoomOptions({ way, onChange }: { way: Way; onChange: (c: Partial<Way>) => void }) {
  return (
    <fieldset>
      <legend className="text-note text-ink-2">{say.bookingPage.room}</legend>
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
