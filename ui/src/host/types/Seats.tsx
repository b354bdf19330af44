import type { Schemas } from '../../api/client'
import { say } from '../../say'
import { Choice, NumberPart, pairs, Sentence } from '../rules/parts'

type Rules = Schemas['TypeRules']
type Format = 'one' | 'several'
const formats = pairs<Format>({ one: say.types.oneClient, several: say.types.severalClients })

interface Props {
  rules: Rules
  unchanged: Rules
  wrong: Record<string, string>
  onChange: (change: Partial<Rules>) => void
}

type When = 'open' | 'dates'
const whens = pairs<When>({ open: say.types.atOpenTimes, dates: say.types.onSetDates })
const whenOf = ({ sessions }: Rules): When => (sessions ? 'dates' : 'open')

type Taking = 'single' | 'whole'
const takings = pairs<Taking>({ single: say.types.sessionBySession, whole: say.types.seriesWhole })
const takingOf = ({ whole }: Rules): Taking => (whole ? 'whole' : 'single')

const usualSeats = 5
/** By which an address leads here. */
const group = 'seats'
const formatOf = ({ seats }: Rules): Format => (seats !== undefined && seats > 1 ? 'several' : 'one')

const noDates = { sessions: undefined, whole: undefined }

function noteOf({ sessions, whole }: Rules): string {
  if (!sessions) return say.types.seatsNote
  return whole ? `${say.types.sessionsNote} ${say.types.wholeNote}` : say.types.sessionsNote
}

/** Whether clients share a time, how many, and when they come. */
export function Seats({ rules, unchanged, wrong, onChange }: Props) {
  const format = formatOf(rules)
  const problem = wrong['rules.seats']
  return (
    <Sentence
      name={group}
      problems={problem === undefined ? [] : [problem]}
      note={format === 'several' && noteOf(rules)}
    >
      <Choice
        label={say.types.whoHasTime}
        value={format}
        options={formats}
        changed={format !== formatOf(unchanged)}
        onChange={(chosen) => onChange(chosen === 'one' ? { seats: undefined, ...noDates } : { seats: usualSeats })}
      />
      {format === 'several' && (
        <>
          :{' '}
          {say.types.upToClients(
            <NumberPart
              label={say.types.howManyClients}
              value={rules.seats ?? usualSeats}
              changed={rules.seats !== unchanged.seats}
              wrong={problem !== undefined}
              onChange={(seats) => onChange({ seats: Math.max(2, seats) })}
            />,
          )}
          ,{' '}
          <Choice
            label={say.types.whenTheyCome}
            value={whenOf(rules)}
            options={whens}
            changed={whenOf(rules) !== whenOf(unchanged)}
            onChange={(chosen) => onChange(chosen === 'dates' ? { sessions: true } : noDates)}
          />
          {rules.sessions && (
            <>
              ,{' '}
              <Choice
                label={say.types.howTheyTakeThem}
                value={takingOf(rules)}
                options={takings}
                changed={takingOf(rules) !== takingOf(unchanged)}
                onChange={(chosen) => onChange({ whole: chosen === 'whole' || undefined })}
              />
            </>
          )}
        </>
      )}
      .
    </Sentence>
  )
}
