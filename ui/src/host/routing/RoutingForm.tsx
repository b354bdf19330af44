import type { Schemas } from '../../api/client'
import { say } from '../../say'
import { Choice, pairs, Sentence } from '../rules/parts'
import { AnswerRules } from './AnswerRules'
import type { Draft } from './draft'
import { Pool } from './Pool'

type Rules = Schemas['TypeRouting']

interface Props {
  draft: Draft
  view: Schemas['RoutingView']
  /** Whether several clients can share a time of it. */
  shared: boolean
  wrong: Record<string, string>
  onChange: (draft: Draft) => void
}

const modes = pairs<Rules['mode']>({
  turn: say.routing.turnWeight,
  client: say.routing.clientChooses,
  order: say.routing.setOrder,
  least: say.routing.whoeverHasLeastBooked,
  together: say.routing.everyoneTogether,
  some: say.routing.someAlwaysOneRest,
})
const periods = pairs<Rules['period']>({
  always: say.routing.allTime,
  year: say.routing.year,
  quarter: say.routing.quarter,
  month: say.routing.month,
})
const whos = pairs<Draft['who']>({
  anyone: say.routing.anyoneLink,
  organisation: say.routing.peopleWorkspaceWhoSigned,
  nobody: say.routing.nobodyColleaguesEnterHand,
})

/** The routing as sentences to compose. */
export function RoutingForm({ draft, view, shared, wrong, onChange }: Props) {
  const { rules, who } = draft
  const saved = view.routing
  const set = (change: Partial<Rules>) => onChange({ ...draft, rules: { ...rules, ...change } })
  const joined = rules.mode === 'together'
  return (
    <fieldset disabled={!view.edits} className="border-0">
      <Sentence
        problems={wrong.people ? [wrong.people] : []}
        note={!view.edits && say.routing.onlyCoordinatorWhoeverMade}
      >
        {joined ? say.routing.hostedAllThese : say.routing.hostedOneThese},{' '}
        <Choice
          label={say.routing.howOneFound}
          value={rules.mode}
          options={modes}
          changed={rules.mode !== saved.mode}
          onChange={(mode) => set({ mode })}
        />
        .
      </Sentence>
      <Pool rules={rules} view={view} set={set} />
      {!joined && (
        <Sentence problems={[]}>
          {say.routing.returningClients}{' '}
          <Choice
            label={say.routing.returningClients}
            value={rules.returning ? 'stay' : 'new'}
            options={pairs({ stay: say.routing.stayTheirHost, new: say.routing.treatedLikeNewClients })}
            changed={rules.returning !== saved.returning}
            onChange={(words) => set({ returning: words === 'stay' })}
          />
          {say.routing.countFrom}{' '}
          <Choice
            label={say.routing.countBookingsFrom}
            value={rules.period}
            options={periods}
            changed={rules.period !== saved.period}
            onChange={(period) => set({ period })}
          />
          .
        </Sentence>
      )}
      {shared && !joined && (
        <Sentence problems={[]}>
          {say.routing.sharedCounts}{' '}
          <Choice
            label={say.routing.howSharedCounts}
            value={rules.bySeats ? 'seats' : 'once'}
            options={pairs({ once: say.routing.once, seats: say.routing.onceEachClient })}
            changed={(rules.bySeats ?? false) !== (saved.bySeats ?? false)}
            onChange={(counted) => set({ bySeats: counted === 'seats' })}
          />
          .
        </Sentence>
      )}
      <AnswerRules rules={rules} view={view} problem={wrong.rules} set={set} />
      <Sentence problems={[]}>
        {say.routing.canBooked}{' '}
        <Choice
          label={say.routing.whoMayBook}
          value={who}
          options={whos}
          changed={who !== view.who}
          onChange={(who) => onChange({ ...draft, who })}
        />
        .
      </Sentence>
    </fieldset>
  )
}
