import type { Schemas } from '../../api/client'
import { say } from '../../say'
import { clock, shortDate, wallClock } from '../../time/time'

/** The messages that will go out next, as things stand; what an unsaved change brings and takes back is marked. */
export function Ahead({ ahead, zone }: { ahead: Schemas['MessagesAhead']; zone: string }) {
  const does = say.messages.changeDoes(ahead.adds, ahead.takes)
  return (
    <section aria-label={say.messages.willBeSent}>
      <h2>{say.messages.willBeSent}</h2>
      <p role="status" className="text-note text-ink-2">
        {does ? say.messages.yourChange(does) : say.messages.asThingsStand}
      </p>
      {ahead.ahead.length === 0 && <p className="mt-2 text-ink-3">{say.messages.nothingAhead}</p>}
      <ul className="mt-2">
        {ahead.ahead.map((message) => (
          <Row
            key={`${message.at} ${message.booking} ${message.kind} ${message.change}`}
            message={message}
            zone={zone}
          />
        ))}
      </ul>
    </section>
  )
}

function Row({ message, zone }: { message: Schemas['MessageAhead']; zone: string }) {
  const at = new Date(message.at)
  const taken = message.change === 'taken'
  return (
    <li
      className={`grid grid-cols-[1rem_8.2rem_minmax(0,1fr)] gap-x-2 border-t border-rule py-2 text-note ${taken ? 'text-ink-3' : ''}`}
    >
      <span aria-hidden className={taken ? 'text-need' : 'font-semibold text-act'}>
        {message.change === 'added' ? '+' : taken ? '−' : ''}
      </span>
      <span className="figures">
        {shortDate(wallClock(at, zone).date)} {clock(at, zone)}
      </span>
      <span className={taken ? 'line-through' : ''}>
        <span className="sr-only">
          {message.change === 'added' ? say.messages.added : taken ? say.messages.taken : ''}
        </span>
        {say.messages.wordsOf[message.kind]}: <b className="font-semibold">{message.client}</b>, {message.type}
        {message.if && <span className="text-ink-2">, {say.messages.after[message.if]}</span>}
        {message.by === 'text' && <span className="text-ink-2"> · {say.messages.byText}</span>}
        {message.receiver !== 'client' && <span className="text-ink-2"> · {say.messages.to[message.receiver]}</span>}
      </span>
    </li>
  )
}
