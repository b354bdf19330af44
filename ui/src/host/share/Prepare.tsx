import type { Schemas } from '../../api/client'
import { DateField } from '../../kit/DateField'
import { Button, SelectField, TextField } from '../../kit/kit'
import { Questions } from '../../page/Questions'
import { languages } from '../../page/texts'
import { say } from '../../say'
import { InPageWords } from '../InPageWords'
import type { Link } from './sharing'

interface Props {
  page: Schemas['Page']
  says: Link
  onSay: (says: Link) => void
  misfits: string[]
}

const ways: Record<Schemas['Way']['kind'], string> = {
  video: say.share.video,
  'own-room': say.share.hostsOwnRoom,
  ours: say.share.yourAddress,
  theirs: say.share.clients,
  phone: say.share.phone,
  later: say.share.agreedLater,
}

/** The real form, to be filled in once: what is chosen here stands in the address, and the client finds it done. */
export function Prepare({ page, says, onSay, misfits }: Props) {
  const set = (change: Partial<Link>) => onSay({ ...says, ...change })
  const nothing = Object.values(says).every((value) => value === '' || value === 0 || value === undefined)
  return (
    <section aria-labelledby="prepare-head" className="mt-9 max-w-3xl">
      <h2 id="prepare-head">{say.share.chooseSomethingClient}</h2>
      <p className="mt-1 text-note text-ink-2">{say.share.whateverYouChooseAnswer}</p>
      <div className="mt-3 grid gap-x-6 gap-y-3 sm:grid-cols-2">
        {page.lengths.length > 1 && (
          <Chosen
            label={say.share.length}
            value={String(says.minutes ?? '')}
            options={page.lengths.map((minutes) => [String(minutes), say.share.minutes(minutes)])}
            onChange={(value) => set({ minutes: Number(value) || undefined })}
          />
        )}
        {page.choice.length > 0 && (
          <Chosen
            label={say.share.host}
            value={says.with ?? ''}
            options={page.choice.map(({ slug, name }) => [slug, name])}
            onChange={(value) => set({ with: value })}
          />
        )}
        {page.ways.length > 1 && (
          <Chosen
            label={say.share.wayMeeting}
            value={says.way ?? ''}
            options={page.ways.map(({ id, kind }) => [id, ways[kind]])}
            onChange={(value) => set({ way: value })}
          />
        )}
        {page.asks.map(({ attribute, values }) => (
          <Chosen
            key={attribute}
            label={attribute}
            value={says.asked?.[attribute] ?? ''}
            options={values.map((value) => [value, value])}
            onChange={(value) => set({ asked: withoutEmpty({ ...says.asked, [attribute]: value }) })}
          />
        ))}
        <Chosen
          label={say.share.languagePage}
          value={says.language ?? ''}
          options={Object.entries(languages)}
          onChange={(value) => set({ language: value })}
        />
        <DateField label={say.share.dayBegin} value={says.day ?? ''} onChange={(day) => set({ day })} />
        <TextField
          label={say.share.clientsName}
          value={says.name ?? ''}
          onChange={(event) => set({ name: event.target.value })}
        />
        <TextField
          label={say.share.clientsMailAddress}
          value={says.mail ?? ''}
          onChange={(event) => set({ mail: event.target.value })}
        />
      </div>
      {page.questions.length > 0 && (
        <fieldset aria-label={say.share.answers} className="mt-4 grid gap-3 border-0 sm:grid-cols-2">
          <InPageWords>
            <Questions
              questions={page.questions.filter(({ kind }) => kind !== 'file' && kind !== 'terms')}
              said={says.said ?? {}}
              onSay={(id, values) => set({ said: { ...says.said, [id]: values.filter(Boolean) } })}
              problems={{}}
            />
          </InPageWords>
        </fieldset>
      )}
      {misfits.length > 0 && (
        <p role="alert" className="mt-3 text-note text-need">
          {say.share.noPlaceFor(misfits.join(', '))}
        </p>
      )}
      {!nothing && (
        <p className="mt-3">
          <Button kind="text" className="-ml-1 text-note" onClick={() => onSay({})}>
            {say.share.chooseNothing}
          </Button>
        </p>
      )}
    </section>
  )
}

interface ChosenProps {
  label: string
  value: string
  options: (readonly [value: string, words: string])[]
  onChange: (value: string) => void
}

function Chosen({ label, value, options, onChange }: ChosenProps) {
  return (
    <SelectField label={label} value={value} onChange={(event) => onChange(event.target.value)}>
      <option value="">{say.share.clientsChoice}</option>
      {options.map(([option, words]) => (
        <option key={option} value={option}>
          {words}
        </option>
      ))}
    </SelectField>
  )
}

function withoutEmpty(answers: Record<string, string>): Record<string, string> {
  return Object.fromEntries(Object.entries(answers).filter(([, value]) => value !== ''))
}
