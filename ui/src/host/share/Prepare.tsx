import type { Schemas } from '../../api/client'
import { DateField } from '../../kit/DateField'
import { Button, SelectField, TextField } from '../../kit/kit'
import { Questions } from '../../page/Questions'
import { languages } from '../../page/texts'
import type { Link } from './sharing'

interface Props {
  page: Schemas['Page']
  says: Link
  onSay: (says: Link) => void
  misfits: string[]
}

const ways: Record<Schemas['Way']['kind'], string> = {
  video: 'video',
  'own-room': 'the host’s own room',
  ours: 'at your address',
  theirs: 'at the client’s',
  phone: 'phone',
  later: 'agreed later',
}

/** The real form, to be filled in once: what is chosen here stands in the address, and the client finds it done. */
export function Prepare({ page, says, onSay, misfits }: Props) {
  const set = (change: Partial<Link>) => onSay({ ...says, ...change })
  const nothing = Object.values(says).every((value) => value === '' || value === 0 || value === undefined)
  return (
    <section aria-labelledby="prepare-head" className="mt-9 max-w-3xl">
      <h2 id="prepare-head">Choose something for the client</h2>
      <p className="mt-1 text-note text-ink-2">
        Whatever you choose or answer here, the client finds done. What you leave empty is theirs.
      </p>
      <div className="mt-3 grid gap-x-6 gap-y-3 sm:grid-cols-2">
        {page.lengths.length > 1 && (
          <Chosen
            label="Length"
            value={String(says.minutes ?? '')}
            options={page.lengths.map((minutes) => [String(minutes), `${minutes} minutes`])}
            onChange={(value) => set({ minutes: Number(value) || undefined })}
          />
        )}
        {page.choice.length > 0 && (
          <Chosen
            label="Host"
            value={says.with ?? ''}
            options={page.choice.map(({ slug, name }) => [slug, name])}
            onChange={(value) => set({ with: value })}
          />
        )}
        {page.ways.length > 1 && (
          <Chosen
            label="Way of meeting"
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
          label="Language of the page"
          value={says.language ?? ''}
          options={Object.entries(languages)}
          onChange={(value) => set({ language: value })}
        />
        <DateField label="Day to begin with" value={says.day ?? ''} onChange={(day) => set({ day })} />
        <TextField
          label="Client’s name"
          value={says.name ?? ''}
          onChange={(event) => set({ name: event.target.value })}
        />
        <TextField
          label="Client’s mail address"
          value={says.mail ?? ''}
          onChange={(event) => set({ mail: event.target.value })}
        />
      </div>
      {page.questions.length > 0 && (
        <fieldset aria-label="Answers" className="mt-4 grid gap-3 border-0 sm:grid-cols-2">
          <Questions
            questions={page.questions.filter(({ kind }) => kind !== 'file' && kind !== 'terms')}
            said={says.said ?? {}}
            onSay={(id, values) => set({ said: { ...says.said, [id]: values.filter(Boolean) } })}
            problems={{}}
          />
        </fieldset>
      )}
      {misfits.length > 0 && (
        <p role="alert" className="mt-3 text-note text-need">
          The page has no place for {misfits.join(', ')}: it is left out of the address.
        </p>
      )}
      {!nothing && (
        <p className="mt-3">
          <Button kind="text" className="-ml-1 text-note" onClick={() => onSay({})}>
            Choose nothing
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
      <option value="">the client’s choice</option>
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
