import { useState } from 'react'
import type { Schemas } from '../../api/client'
import { say } from '../../say'
import { clock, shortDate, wallClock } from '../../time/time'
import { useMe } from '../queries'

interface Props {
  shown: Schemas['MessageShown']
  language: string
  /** It is a text message. */
  asText: boolean
  onBooking: (id: number) => void
}

/** The message itself, as the one who gets it reads it. */
export function Letter({ shown, language, asText, onBooking }: Props) {
  const [plain, setPlain] = useState(false)
  const zone = useMe().data?.person?.zone ?? 'UTC'
  const when = (at: string) => `${shortDate(wallClock(new Date(at), zone).date)} ${clock(new Date(at), zone)}`
  return (
    <>
      <p className="mt-4 text-note text-ink-2">
        {say.messages.asItReads(
          <select
            aria-label={say.messages.whichBooking}
            className="max-w-full border-0 border-b border-ink bg-transparent px-1 font-semibold text-ink"
            value={shown.booking}
            onChange={(event) => onBooking(Number(event.target.value))}
          >
            <option value={0}>{say.messages.madeUp}</option>
            {shown.bookings.map((one) => (
              <option key={one.id} value={one.id}>
                {one.client}, {when(one.at)}
              </option>
            ))}
          </select>,
        )}{' '}
        {!asText && (
          <button type="button" className="link" onClick={() => setPlain(!plain)}>
            {plain ? say.messages.asMail : say.messages.asPlain}
          </button>
        )}
      </p>
      <article
        lang={language}
        aria-label={say.messages.message}
        className="mt-2 border border-rule-strong bg-ground px-4 py-3 text-note wrap-anywhere"
      >
        {Object.keys(shown.wrong).length > 0 ? (
          <p lang="" className="text-ink-3">
            {say.messages.mendFirst}
          </p>
        ) : (
          <>
            <p className="text-ink-2">{shown.to}</p>
            {!asText && <p className="font-semibold">{shown.subject}</p>}
            {asText ? (
              <p className="mt-2 text-base whitespace-pre-line">{shown.text}</p>
            ) : plain ? (
              <pre className="mt-3 font-mono text-small whitespace-pre-wrap">{shown.text}</pre>
            ) : (
              <AsMail shown={shown} />
            )}
          </>
        )}
      </article>
      {asText && shown.text && (
        <p className="mt-1 figures text-note text-ink-2">
          {say.messages.inParts(shown.parts.parts, shown.parts.used, shown.parts.room)}
          {!shown.parts.plain && ` ${say.messages.otherAlphabet}`}
        </p>
      )}
    </>
  )
}

function AsMail({ shown }: { shown: Props['shown'] }) {
  return (
    <>
      <p className="mt-3 font-head text-[17px] leading-snug whitespace-pre-line">{shown.opening}</p>
      <dl className="mt-3 grid grid-cols-[fit-content(8rem)_minmax(0,1fr)] gap-x-3">
        {shown.facts.map(([word, fact]) => (
          <div key={`${word} ${fact}`} className="col-span-2 grid grid-cols-subgrid border-t border-rule py-1">
            <dt className="text-ink-2">{word}</dt>
            <dd className="whitespace-pre-line">{fact}</dd>
          </div>
        ))}
      </dl>
      {shown.actions.map((action) => (
        <p key={action} className="mt-2 text-act underline underline-offset-3">
          {action}
        </p>
      ))}
      {shown.closing && <p className="mt-3 whitespace-pre-line text-ink-2">{shown.closing}</p>}
    </>
  )
}
