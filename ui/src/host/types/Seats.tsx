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

const usualSeats = 5
const formatOf = ({ seats }: Rules): Format => (seats !== undefined && seats > 1 ? 'several' : 'one')

/** Whether clients share a time, and how many. */
export function Seats({ rules, unchanged, wrong, onChange }: Props) {
  const format = formatOf(rules)
  const problem = wrong['rules.seats']
  return (
    <Sentence problems={problem === undefined ? [] : [problem]} note={format === 'several' && say.types.seatsNote}>
      <Choice
        label={say.types.whoHasTime}
        value={format}
        options={formats}
        changed={format !== formatOf(unchanged)}
        onChange={(chosen) => onChange({ seats: chosen === 'one' ? undefined : usualSeats })}
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
        </>
      )}
      .
    </Sentence>
  )
}
