import type { Schemas } from '../../api/client'
import { useGo } from '../../edit/unsaved'
import { say } from '../../say'
import { useTypeFacts, useTypes } from '../queries'
import { stepWords } from '../steps'
import { shortWhen } from './when'

/** What happened since yesterday, and how much of one's own types is open. */
export function Beside({ today }: { today: Schemas['Today'] }) {
  const types = (useTypes().data ?? []).filter(({ listing }) => listing !== 'off').slice(0, mostTypes)
  return (
    <>
      <h2 className="mb-1.5">{say.today.sinceYesterday}</h2>
      {today.recent.length === 0 && <p className="text-note text-ink-3">{say.today.nothingWasBookedMoved}</p>}
      <ul className="grid gap-1 text-note text-ink-2">
        {today.recent.map((step) => (
          <li key={step.at + step.client + step.kind}>
            {stepWords[step.kind]}: <span className="text-ink">{step.client}</span>, {step.type}
            {step.kind !== 'cancelled' && `, ${shortWhen(new Date(step.start), today.zone)}`}
            {step.note && <span className="text-ink-3"> {say.kit.quoted(step.note)}</span>}
          </li>
        ))}
      </ul>
      {types.length > 0 && (
        <>
          <h2 className="mt-6 mb-1.5">{say.today.openNext14Days}</h2>
          <ul className="grid gap-1 text-note text-ink-2">
            {types.map((type) => (
              <OpenOf key={type.id} type={type} />
            ))}
          </ul>
        </>
      )}
    </>
  )
}

/** So many of one's types are counted here; the list of meeting types counts all. */
const mostTypes = 10

function OpenOf({ type }: { type: Schemas['MeetingType'] }) {
  const go = useGo()
  const facts = useTypeFacts(type.id).data
  return (
    <li>
      <button type="button" className="link" onClick={() => go(`/types/${type.id}`)}>
        {type.name}
      </button>{' '}
      {facts &&
        (facts.open > 0 ? (
          <span className="figures">{facts.open}</span>
        ) : (
          <b className="text-need">{say.today.nothing}</b>
        ))}
    </li>
  )
}
