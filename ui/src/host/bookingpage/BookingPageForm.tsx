import type { ReactNode } from 'react'
import type { Schemas } from '../../api/client'
import { inline, Need, SelectField, TextArea, TextField, whole } from '../../kit/kit'
import { say } from '../../say'
import { Colour } from '../looks/Colour'
import { Picture } from '../looks/Picture'
import type { Draft } from './draft'
import { QuestionList } from './QuestionList'
import { Ways } from './Ways'

interface Props {
  draft: Draft
  /** The client's page as it would be. */
  page: Schemas['Page']
  wrong: Record<string, string>
  onChange: (change: Partial<Draft>) => void
}

const listings: Record<Draft['listing'], string> = {
  listed: say.bookingPage.listedWorkspacesPage,
  link: say.bookingPage.reachedOwnLinkOnly,
  off: say.bookingPage.switchedOff,
}

/** Everything about how a type meets its clients, in the order in which they meet it. */
export function BookingPageForm({ draft, page, wrong, onChange }: Props) {
  return (
    <div className="grid max-w-3xl grid-cols-[minmax(0,1fr)] gap-8">
      <Part title={say.bookingPage.whereOffered}>
        <div className="grid gap-5 sm:grid-cols-2">
          <SelectField
            label={say.bookingPage.itIs}
            value={draft.listing}
            onChange={(event) => onChange({ listing: event.target.value as Draft['listing'] })}
          >
            {Object.entries(listings).map(([value, words]) => (
              <option key={value} value={value}>
                {words}
              </option>
            ))}
          </SelectField>
          <TextField
            label={say.bookingPage.categoryPage}
            placeholder={say.bookingPage.none}
            value={draft.category}
            onChange={(event) => onChange({ category: event.target.value })}
          />
        </div>
        <div className="mt-3 grid gap-5 sm:grid-cols-2">
          <Picture
            label={say.bookingPage.picture}
            hash={draft.picture ?? ''}
            onChange={(picture) => onChange({ picture })}
          />
          <Colour
            label={say.bookingPage.colourPages}
            none={say.bookingPage.workspaces}
            colour={draft.colour ?? ''}
            tones={page.looks.own ? page.looks.light : undefined}
            usual={page.looks.light?.act}
            problem={wrong.colour}
            onChange={(colour) => onChange({ colour })}
          />
        </div>
      </Part>
      <Part title={say.bookingPage.location}>
        <Ways ways={draft.ways} wrong={wrong} onChange={(ways) => onChange({ ways })} />
      </Part>
      <Part title={say.bookingPage.questions} note={say.bookingPage.nameMailRemarkAsked}>
        <QuestionList
          questions={draft.questions}
          wrong={wrong}
          along={(page.along ?? 0) > 0}
          onChange={(questions) => onChange({ questions })}
        />
      </Part>
      <Part title={say.bookingPage.guests} note={page.whole ? say.bookingPage.noGuestsInSeries : undefined}>
        <div className="grid gap-5 sm:grid-cols-[9rem_1fr]">
          <TextField
            label={say.bookingPage.guestsMost}
            type="number"
            min={0}
            max={50}
            value={draft.guests}
            onChange={(event) => onChange({ guests: whole(event.target.value) })}
          />
          <TextField
            label={say.bookingPage.alwaysToldBooking}
            placeholder={say.bookingPage.mailAddressesCommasBetween}
            value={draft.always.join(', ')}
            problem={wrong.always}
            onChange={(event) => onChange({ always: event.target.value.split(/,\s*/) })}
          />
        </div>
      </Part>
      <Booked draft={draft} wrong={wrong} onChange={onChange} />
      {page.sessions && <Least draft={draft} onChange={onChange} />}
      {page.seats > 1 && <AlongPart draft={draft} seats={page.seats} onChange={onChange} />}
      {page.seats > 1 && <WaitingList draft={draft} onChange={onChange} />}
      <Changing draft={draft} onChange={onChange} />
      <Afterwards draft={draft} wrong={wrong} onChange={onChange} />
      <Part title={say.bookingPage.hostsOnly}>
        <div className="grid gap-3">
          <TextArea
            label={say.bookingPage.notes}
            rows={2}
            value={draft.notes}
            onChange={(event) => onChange({ notes: event.target.value })}
          />
          <TextArea
            label={say.bookingPage.checklistPointLine}
            rows={3}
            value={draft.checklist.join('\n')}
            onChange={(event) => onChange({ checklist: event.target.value.split('\n') })}
          />
        </div>
      </Part>
    </div>
  )
}

function Part({ title, note, children }: { title: string; note?: string; children: ReactNode }) {
  return (
    <section aria-label={title}>
      <h2 className="mb-2">
        {title} {note && <span className="font-text text-note font-normal text-ink-3">{note}</span>}
      </h2>
      {children}
    </section>
  )
}

function Booked({ draft, wrong, onChange }: Omit<Props, 'page'>) {
  return (
    <Part title={say.bookingPage.whenBooked}>
      <p>
        {say.bookingPage.booking}{' '}
        <select
          aria-label={say.bookingPage.howBookingComesAbout}
          className={inline}
          value={draft.onRequest ? 'request' : 'once'}
          onChange={(event) => onChange({ onRequest: event.target.value === 'request' })}
        >
          <option value="once">{say.bookingPage.confirmedAutomatically}</option>
          <option value="request">{say.bookingPage.confirmedHost}</option>
        </select>
        {draft.onRequest && (
          <>
            {' '}
            {say.bookingPage.within}{' '}
            <input
              type="number"
              aria-label={say.bookingPage.hoursWhichDecided}
              className={`number w-16 ${inline}`}
              min={1}
              max={720}
              value={draft.keepHours}
              onChange={(event) => onChange({ keepHours: Math.max(1, whole(event.target.value)) })}
            />{' '}
            {say.bookingPage.hoursThenExpiresUntil(draft.several ?? false)}{' '}
            <select
              aria-label={say.bookingPage.whoseTimeWasAsked}
              className={inline}
              value={draft.several ? 'others' : 'client'}
              onChange={(event) => onChange({ several: event.target.value === 'others' })}
            >
              <option value="client">{say.bookingPage.keptClient}</option>
              <option value="others">{say.bookingPage.openOthersAskToo}</option>
            </select>
          </>
        )}
        .
      </p>
      <p className="mt-2">
        {say.bookingPage.beforeClient}{' '}
        <select
          aria-label={say.bookingPage.whatClientProvesFirst}
          className={inline}
          value={draft.proof}
          onChange={(event) => onChange({ proof: event.target.value as typeof draft.proof })}
        >
          <option value="">{say.bookingPage.booksWithoutVerification}</option>
          <option value="code">{say.bookingPage.confirmsCodeSentMail}</option>
          <option value="text">{say.bookingPage.confirmsCodeTexted}</option>
          <option value="puzzle">{say.bookingPage.hasBrowserSolveSmall}</option>
        </select>
        .
      </p>
      {wrong.proof && <Need>{wrong.proof}</Need>}
      <p className="mt-2">
        {say.bookingPage.oneClientMayHave}{' '}
        <select
          aria-label={say.bookingPage.thereLimitOneClient}
          className={inline}
          value={draft.perClient > 0 ? 'some' : 'any'}
          onChange={(event) => onChange({ perClient: event.target.value === 'some' ? 5 : 0 })}
        >
          <option value="some">{say.bookingPage.most}</option>
          <option value="any">{say.bookingPage.anyNumber}</option>
        </select>{' '}
        {draft.perClient > 0 && (
          <>
            <input
              type="number"
              aria-label={say.bookingPage.comingBookingsOneClient}
              className={`number w-16 ${inline}`}
              min={1}
              max={100}
              value={draft.perClient}
              onChange={(event) => onChange({ perClient: Math.min(100, Math.max(1, whole(event.target.value))) })}
            />{' '}
          </>
        )}
        {say.bookingPage.comingBookingsType}
      </p>
    </Part>
  )
}

const usualLeast = 3
const usualLeastHours = 24

/** From how many people on a session takes place, and when that is decided. */
function Least({ draft, onChange }: Pick<Props, 'draft' | 'onChange'>) {
  const least = draft.least ?? 0
  const number = (label: string, value: number, most: number, set: (to: number) => Partial<Draft>) => (
    <input
      type="number"
      aria-label={label}
      className={`number w-16 ${inline}`}
      min={1}
      max={most}
      value={value}
      onChange={(event) => onChange(set(Math.min(most, Math.max(1, whole(event.target.value)))))}
    />
  )
  return (
    <Part title={say.bookingPage.leastNumber}>
      <p>
        {say.bookingPage.takesPlace}{' '}
        <select
          aria-label={say.bookingPage.whetherTakesPlace}
          className={inline}
          value={least > 1 ? 'some' : 'any'}
          onChange={(event) => onChange({ least: event.target.value === 'some' ? usualLeast : 0 })}
        >
          <option value="any">{say.bookingPage.whoeverComes}</option>
          <option value="some">{say.bookingPage.fromSoMany}</option>
        </select>
        {least > 1 &&
          say.bookingPage.decidedBefore(
            number(say.bookingPage.leastPeople, least, 1000, (to) => ({ least: Math.max(2, to) })),
            number(say.bookingPage.hoursDecided, draft.leastHours || usualLeastHours, 720, (to) => ({
              leastHours: to,
            })),
          )}
        {least > 1 && (
          <>
            ;{' '}
            <select
              aria-label={say.bookingPage.whatIfFewer}
              className={inline}
              value={draft.leastAsk ? 'ask' : 'off'}
              onChange={(event) => onChange({ leastAsk: event.target.value === 'ask' })}
            >
              <option value="off">{say.bookingPage.fewerCallOff}</option>
              <option value="ask">{say.bookingPage.fewerAsk}</option>
            </select>
          </>
        )}
        .
      </p>
      {least > 1 && (
        <p className="text-note text-ink-2">
          {draft.leastAsk ? say.bookingPage.hostsAreAsked : say.bookingPage.calledOffByItself}
        </p>
      )}
    </Part>
  )
}

/** For how many others a client may take a seat, where clients share a time. */
function AlongPart({ draft, seats, onChange }: Pick<Props, 'draft' | 'onChange'> & { seats: number }) {
  const most = Math.min(20, seats - 1)
  const along = draft.along ?? 0
  return (
    <Part title={say.bookingPage.along}>
      <p>
        {say.bookingPage.seatsForOthers(
          <input
            type="number"
            aria-label={say.bookingPage.othersAtMost}
            className={`number w-16 ${inline}`}
            min={0}
            max={most}
            value={along}
            onChange={(event) => onChange({ along: Math.min(most, whole(event.target.value)) })}
          />,
        )}
      </p>
      {along > 0 && <p className="text-note text-ink-2">{say.bookingPage.othersAreAsked}</p>}
      <p>
        {say.bookingPage.clientsSee}{' '}
        <select
          aria-label={say.bookingPage.whatOfSeatsLeft}
          className={inline}
          value={draft.hideLeft ? 'full' : 'left'}
          onChange={(event) => onChange({ hideLeft: event.target.value === 'full' })}
        >
          <option value="left">{say.bookingPage.howManyLeft}</option>
          <option value="full">{say.bookingPage.onlyWhatIsFull}</option>
        </select>
        .
      </p>
    </Part>
  )
}

const usualWait = 12 // hours

/** Whether clients can wait where they share a time that is full, and how a seat that gets free finds them. */
function WaitingList({ draft, onChange }: Pick<Props, 'draft' | 'onChange'>) {
  return (
    <Part title={say.bookingPage.waitingList}>
      <p>
        {say.bookingPage.whenFull}{' '}
        <select
          aria-label={say.bookingPage.whatWhenFull}
          className={inline}
          value={draft.waiting ?? ''}
          onChange={(event) => onChange({ waiting: event.target.value as NonNullable<Draft['waiting']> })}
        >
          <option value="">{say.bookingPage.nobodyWaits}</option>
          <option value="turn">{say.bookingPage.offeredInTurn}</option>
          <option value="first">{say.bookingPage.whoeverIsFirst}</option>
        </select>
        {draft.waiting === 'turn' && (
          <>
            {', '}
            {say.bookingPage.keptHours(
              <input
                type="number"
                aria-label={say.bookingPage.hoursOffered}
                className={`number w-16 ${inline}`}
                min={1}
                max={336}
                value={draft.waitHours || usualWait}
                onChange={(event) => onChange({ waitHours: Math.min(336, Math.max(1, whole(event.target.value))) })}
              />,
            )}
          </>
        )}
        .
      </p>
      {draft.waiting === 'turn' && <p className="text-note text-ink-2">{say.bookingPage.shorterNear}</p>}
    </Part>
  )
}

const limits: [words: string, minutes: number][] = [
  [say.bookingPage.untilBegins, 0],
  [say.bookingPage.untilHourBefore, 60],
  [say.bookingPage.until4HoursBefore, 240],
  [say.bookingPage.until24HoursBefore, 1440],
  [say.bookingPage.until2DaysBefore, 2880],
  [say.bookingPage.untilWeekBefore, 10_080],
  [say.bookingPage.notAll, -1],
]

function Changing({ draft, onChange }: Omit<Props, 'page' | 'wrong'>) {
  const choice = (field: 'moveUntil' | 'cancelUntil' | 'correctUntil', label: string) => (
    <select
      aria-label={label}
      className={inline}
      value={draft[field]}
      onChange={(event) => onChange({ [field]: Number(event.target.value) })}
    >
      {limits.map(([words, minutes]) => (
        <option key={minutes} value={minutes}>
          {words}
        </option>
      ))}
      {limits.every(([, minutes]) => minutes !== draft[field]) && (
        <option value={draft[field]}>{say.bookingPage.untilMinutesBefore(draft[field])}</option>
      )}
    </select>
  )
  return (
    <Part title={say.bookingPage.reschedulingCancelling}>
      <p>
        {say.bookingPage.clientsMayMoveCancel(choice('moveUntil', say.bookingPage.untilClientsMove))}{' '}
        {choice('cancelUntil', say.bookingPage.untilClientsCancel)}
        {', '}
        <select
          aria-label={say.bookingPage.whetherReasonAsked}
          className={inline}
          value={draft.askReason ? 'yes' : 'no'}
          onChange={(event) => onChange({ askReason: event.target.value === 'yes' })}
        >
          <option value="no">{say.bookingPage.reasonOptional}</option>
          <option value="yes">{say.bookingPage.reasonRequired}</option>
        </select>
        .
      </p>
      <p className="mt-3">
        {say.bookingPage.whoDeclines(
          <select
            aria-label={say.bookingPage.whatDecliningDoes}
            className={inline}
            value={draft.declineCancels ? 'cancels' : 'asks'}
            onChange={(event) => onChange({ declineCancels: event.target.value === 'cancels' })}
          >
            <option value="asks">{say.bookingPage.decliningAsks}</option>
            <option value="cancels">{say.bookingPage.decliningCancels}</option>
          </select>,
        )}
      </p>
      <p className="mt-3">
        {say.bookingPage.theyMayCorrectWhat(choice('correctUntil', say.bookingPage.untilClientsCorrect))}
      </p>
    </Part>
  )
}

function Afterwards({ draft, wrong, onChange }: Omit<Props, 'page'>) {
  const pass = (id: string, on: boolean) =>
    onChange({ afterPass: on ? [...draft.afterPass, id] : draft.afterPass.filter((other) => other !== id) })
  return (
    <Part title={say.bookingPage.afterBooking}>
      <div className="grid gap-3">
        <TextArea
          label={say.bookingPage.yourOwnWordsConfirmation}
          rows={2}
          value={draft.afterWords}
          onChange={(event) => onChange({ afterWords: event.target.value })}
        />
        <TextField
          label={say.bookingPage.afterBookingGo}
          placeholder={say.bookingPage.none}
          value={draft.afterAddress}
          problem={wrong.afterAddress}
          onChange={(event) => onChange({ afterAddress: event.target.value })}
        />
        {draft.afterAddress && draft.questions.length > 0 && (
          <fieldset>
            <legend className="text-note text-ink-2">{say.bookingPage.answersGoAlong}</legend>
            {draft.questions.map((question) => (
              <label key={question.id} className="mr-5 inline-flex items-center gap-1.5">
                <input
                  type="checkbox"
                  className="accent-act"
                  checked={draft.afterPass.includes(question.id)}
                  onChange={(event) => pass(question.id, event.target.checked)}
                />
                {question.label || say.bookingPage.untitledQuestion}
              </label>
            ))}
          </fieldset>
        )}
      </div>
    </Part>
  )
}
