import type { ReactNode } from 'react'
import type { Schemas } from '../../api/client'
import { inline, SelectField, TextArea, TextField, whole } from '../../kit/kit'
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
  listed: 'listed on the workspace’s page',
  link: 'reached by its own link only',
  off: 'switched off',
}

/** Everything about how a type meets its clients, in the order in which they meet it. */
export function OfferForm({ draft, page, wrong, onChange }: Props) {
  return (
    <div className="grid max-w-3xl grid-cols-[minmax(0,1fr)] gap-8">
      <Part title="Where it is offered">
        <div className="grid gap-5 sm:grid-cols-2">
          <SelectField
            label="It is"
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
            label="Category on that page"
            placeholder="none"
            value={draft.category}
            onChange={(event) => onChange({ category: event.target.value })}
          />
        </div>
        <div className="mt-3 grid gap-5 sm:grid-cols-2">
          <Picture label="Picture" hash={draft.picture ?? ''} onChange={(picture) => onChange({ picture })} />
          <Colour
            label="Colour of its pages"
            none="the workspace’s"
            colour={draft.colour ?? ''}
            tones={page.looks.own ? page.looks.light : undefined}
            usual={page.looks.light?.act}
            problem={wrong.colour}
            onChange={(colour) => onChange({ colour })}
          />
        </div>
      </Part>
      <Part title="Location">
        <Ways ways={draft.ways} wrong={wrong} onChange={(ways) => onChange({ ways })} />
      </Part>
      <Part title="Questions" note="Name, mail and a remark are asked always.">
        <QuestionList questions={draft.questions} wrong={wrong} onChange={(questions) => onChange({ questions })} />
      </Part>
      <Part title="Guests">
        <div className="grid gap-5 sm:grid-cols-[9rem_1fr]">
          <TextField
            label="Guests, at most"
            type="number"
            min={0}
            max={50}
            value={draft.guests}
            onChange={(event) => onChange({ guests: whole(event.target.value) })}
          />
          <TextField
            label="Always told of a booking"
            placeholder="mail addresses, with commas between"
            value={draft.always.join(', ')}
            problem={wrong.always}
            onChange={(event) => onChange({ always: event.target.value.split(/,\s*/) })}
          />
        </div>
      </Part>
      <Booked draft={draft} onChange={onChange} />
      <Changing draft={draft} onChange={onChange} />
      <Afterwards draft={draft} wrong={wrong} onChange={onChange} />
      <Part title="For hosts only">
        <div className="grid gap-3">
          <TextArea
            label="Notes"
            rows={2}
            value={draft.notes}
            onChange={(event) => onChange({ notes: event.target.value })}
          />
          <TextArea
            label="Checklist, a point a line"
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

function Booked({ draft, onChange }: Omit<Props, 'page' | 'wrong'>) {
  return (
    <Part title="When it is booked">
      <p>
        A booking is{' '}
        <select
          aria-label="How a booking comes about"
          className={inline}
          value={draft.onRequest ? 'request' : 'once'}
          onChange={(event) => onChange({ onRequest: event.target.value === 'request' })}
        >
          <option value="once">confirmed automatically</option>
          <option value="request">confirmed by a host</option>
        </select>
        {draft.onRequest && (
          <>
            {' '}
            within{' '}
            <input
              type="number"
              aria-label="Hours in which it is decided"
              className={`number w-16 ${inline}`}
              min={1}
              max={720}
              value={draft.keepHours}
              onChange={(event) => onChange({ keepHours: Math.max(1, whole(event.target.value)) })}
            />{' '}
            hours; then the {draft.several ? 'request' : 'hold'} expires. Until it is decided, the time is{' '}
            <select
              aria-label="Whose is a time that was asked for"
              className={inline}
              value={draft.several ? 'others' : 'client'}
              onChange={(event) => onChange({ several: event.target.value === 'others' })}
            >
              <option value="client">kept for the client</option>
              <option value="others">open for others to ask for too</option>
            </select>
          </>
        )}
        .
      </p>
      <p className="mt-2">
        Before that, a client{' '}
        <select
          aria-label="What a client proves first"
          className={inline}
          value={draft.proof}
          onChange={(event) => onChange({ proof: event.target.value as typeof draft.proof })}
        >
          <option value="">books without verification</option>
          <option value="code">confirms a code sent by mail</option>
          <option value="puzzle">has the browser solve a small puzzle, which keeps robots out</option>
        </select>
        .
      </p>
      <p className="mt-2">
        One client may have{' '}
        <select
          aria-label="Is there a limit for one client"
          className={inline}
          value={draft.perClient > 0 ? 'some' : 'any'}
          onChange={(event) => onChange({ perClient: event.target.value === 'some' ? 5 : 0 })}
        >
          <option value="some">at most</option>
          <option value="any">any number of</option>
        </select>{' '}
        {draft.perClient > 0 && (
          <>
            <input
              type="number"
              aria-label="Coming bookings of one client"
              className={`number w-16 ${inline}`}
              min={1}
              max={100}
              value={draft.perClient}
              onChange={(event) => onChange({ perClient: Math.min(100, Math.max(1, whole(event.target.value))) })}
            />{' '}
          </>
        )}
        coming bookings of this type.
      </p>
    </Part>
  )
}

const limits: [words: string, minutes: number][] = [
  ['until it begins', 0],
  ['until an hour before', 60],
  ['until 4 hours before', 240],
  ['until 24 hours before', 1440],
  ['until 2 days before', 2880],
  ['until a week before', 10_080],
  ['not at all', -1],
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
        <option value={draft[field]}>until {draft[field]} minutes before</option>
      )}
    </select>
  )
  return (
    <Part title="Rescheduling and cancelling">
      <p>
        Clients may move it {choice('moveUntil', 'Until when clients may move')} and cancel it{' '}
        {choice('cancelUntil', 'Until when clients may cancel')}
        {', '}
        <select
          aria-label="Whether a reason is asked"
          className={inline}
          value={draft.askReason ? 'yes' : 'no'}
          onChange={(event) => onChange({ askReason: event.target.value === 'yes' })}
        >
          <option value="no">reason optional</option>
          <option value="yes">reason required</option>
        </select>
        .
      </p>
      <p className="mt-3">
        They may correct what they wrote {choice('correctUntil', 'Until when clients may correct what they wrote')}; you
        are told what changed.
      </p>
    </Part>
  )
}

function Afterwards({ draft, wrong, onChange }: Omit<Props, 'page'>) {
  const pass = (id: string, on: boolean) =>
    onChange({ afterPass: on ? [...draft.afterPass, id] : draft.afterPass.filter((other) => other !== id) })
  return (
    <Part title="After booking">
      <div className="grid gap-3">
        <TextArea
          label="Your own words on the confirmation and in its mail"
          rows={2}
          value={draft.afterWords}
          onChange={(event) => onChange({ afterWords: event.target.value })}
        />
        <TextField
          label="After booking, go to"
          placeholder="none"
          value={draft.afterAddress}
          problem={wrong.afterAddress}
          onChange={(event) => onChange({ afterAddress: event.target.value })}
        />
        {draft.afterAddress && draft.questions.length > 0 && (
          <fieldset>
            <legend className="text-note text-ink-2">Answers that go along</legend>
            {draft.questions.map((question) => (
              <label key={question.id} className="mr-5 inline-flex items-center gap-1.5">
                <input
                  type="checkbox"
                  className="accent-act"
                  checked={draft.afterPass.includes(question.id)}
                  onChange={(event) => pass(question.id, event.target.checked)}
                />
                {question.label || 'Untitled question'}
              </label>
            ))}
          </fieldset>
        )}
      </div>
    </Part>
  )
}
