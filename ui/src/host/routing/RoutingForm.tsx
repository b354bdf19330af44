import type { Schemas } from '../../api/client'
import { Choice, Sentence } from '../rules/parts'
import { AnswerRules } from './AnswerRules'
import type { Draft } from './draft'
import { Pool } from './Pool'

type Rules = Schemas['TypeRouting']

interface Props {
  draft: Draft
  view: Schemas['RoutingView']
  wrong: Record<string, string>
  onChange: (draft: Draft) => void
}

const ways: Record<Rules['way'], string> = {
  turn: 'in turn by weight',
  client: 'as the client chooses',
  order: 'in a set order',
  least: 'whoever has least booked',
  together: 'everyone together',
  some: 'some always, and one of the rest in turn',
}
const periods: Record<Rules['period'], string> = {
  always: 'all time',
  year: 'this year',
  quarter: 'this quarter',
  month: 'this month',
}
const whos: Record<Draft['who'], string> = {
  anyone: 'anyone with the link',
  organisation: 'people of the workspace who are signed in',
  nobody: 'nobody: colleagues enter it by hand',
}

/** The key of a record whose words were chosen. */
function keyOf<K extends string>(words: Record<K, string>, chosen: string): K {
  return (Object.keys(words) as K[]).find((key) => words[key] === chosen) as K
}

/** The routing as sentences to compose. */
export function RoutingForm({ draft, view, wrong, onChange }: Props) {
  const { rules, who } = draft
  const saved = view.routing
  const set = (change: Partial<Rules>) => onChange({ ...draft, rules: { ...rules, ...change } })
  const joined = rules.way === 'together'
  return (
    <fieldset disabled={!view.edits} className="border-0">
      <Sentence
        problems={wrong.people ? [wrong.people] : []}
        note={!view.edits && 'Only a coordinator, or whoever made this type, can change it.'}
      >
        {joined ? 'Hosted by all of these' : 'Hosted by one of these'},{' '}
        <Choice
          label="How one is found"
          value={ways[rules.way]}
          options={Object.values(ways)}
          changed={rules.way !== saved.way}
          onChange={(words) => set({ way: keyOf(ways, words) })}
        />
        .
      </Sentence>
      <Pool rules={rules} view={view} set={set} />
      {!joined && (
        <Sentence problems={[]}>
          Returning clients{' '}
          <Choice
            label="Returning clients"
            value={rules.returning ? 'stay with their host' : 'are treated like new clients'}
            options={['stay with their host', 'are treated like new clients']}
            changed={rules.returning !== saved.returning}
            onChange={(words) => set({ returning: words === 'stay with their host' })}
          />
          ; count bookings from{' '}
          <Choice
            label="Count bookings from"
            value={periods[rules.period]}
            options={Object.values(periods)}
            changed={rules.period !== saved.period}
            onChange={(words) => set({ period: keyOf(periods, words) })}
          />
          .
        </Sentence>
      )}
      <AnswerRules rules={rules} view={view} problem={wrong.rules} set={set} />
      <Sentence problems={[]}>
        It can be booked by{' '}
        <Choice
          label="Who may book it"
          value={whos[who]}
          options={Object.values(whos)}
          changed={who !== view.who}
          onChange={(words) => onChange({ ...draft, who: keyOf(whos, words) })}
        />
        .
      </Sentence>
    </fieldset>
  )
}
