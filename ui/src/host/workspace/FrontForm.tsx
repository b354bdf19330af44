import type { Schemas } from '../../api/client'
import { SelectField, TextArea, TextField } from '../../kit/kit'
import { LanguageOptions } from '../../kit/LanguageOptions'
import { countries } from './countries'

type Front = Schemas['Front']

interface Props {
  front: Front
  wrong: Record<string, string>
  onChange: (front: Front) => void
}

/** What clients read about the workspace, its policies, and whether its page can be found. */
export function FrontForm({ front, wrong, onChange }: Props) {
  const text = (field: Exclude<keyof Front, 'hidden' | 'unpublished' | 'looks' | 'clock12'>) => ({
    value: front[field],
    problem: wrong[`front.${field}`],
    onChange: (event: { target: { value: string } }) => onChange({ ...front, [field]: event.target.value }),
  })
  const tick = (field: 'hidden' | 'unpublished', words: string) => (
    <label className="flex items-baseline gap-2">
      <input
        type="checkbox"
        className="accent-act"
        checked={front[field]}
        onChange={(event) => onChange({ ...front, [field]: event.target.checked })}
      />
      {words}
    </label>
  )
  return (
    <>
      <section aria-label="What clients read" className="mt-8 grid gap-3">
        <h2>What clients read</h2>
        <TextArea label="About you" rows={3} {...text('description')} />
        <div className="grid grid-cols-2 gap-5">
          <TextField label="Contact mail" type="email" {...text('mail')} />
          <TextField label="Phone" type="tel" {...text('phone')} />
          <TextField label="Web address" type="url" {...text('web')} />
          <SelectField
            label="Country of local phone numbers"
            value={front.country}
            problem={wrong['front.country']}
            onChange={(event) => onChange({ ...front, country: event.target.value })}
          >
            <option value="">none: clients give the country code</option>
            {countries().map(([code, name]) => (
              <option key={code} value={code}>
                {name}
              </option>
            ))}
          </SelectField>
          <TextField label="Short name" placeholder="none" hint="Where the whole one has no room." {...text('short')} />
          <SelectField
            label="Clock on pages and in mails"
            value={front.clock12 ? '12' : '24'}
            onChange={(event) => onChange({ ...front, clock12: event.target.value === '12' })}
          >
            <option value="24">24 hours, 14:30</option>
            <option value="12">12 hours, 2:30 pm</option>
          </SelectField>
          <SelectField
            label="Language of pages"
            hint="Where a client’s browser asks for none of these."
            value={front.language || 'en'}
            onChange={(event) => onChange({ ...front, language: event.target.value as Front['language'] })}
          >
            <LanguageOptions />
          </SelectField>
        </div>
        <TextArea label="Postal address" rows={2} {...text('address')} />
        {tick(
          'unpublished',
          'Not published yet: the workspace’s page and people’s pages can’t be seen; links of types work.',
        )}
        {tick('hidden', 'Search engines are asked to stay away.')}
      </section>
      <Embedding front={front} problem={wrong['front.sites']} onChange={onChange} />
      <section aria-label="Policies" className="mt-8 grid gap-3">
        <h2>Policies</h2>
        <TextArea label="Cancelling" rows={2} {...text('cancellation')} />
        <TextArea label="Privacy notice" rows={2} {...text('privacy')} />
        <TextField
          label="What clients have to agree to"
          placeholder="nothing"
          hint="A sentence to tick. It is kept with each booking, with its words and the time."
          {...text('consent')}
        />
      </section>
    </>
  )
}

interface EmbeddingProps {
  front: Front
  problem: string | undefined
  onChange: (front: Front) => void
}

/** Which sites may show the workspace's pages inside theirs. */
function Embedding({ front, problem, onChange }: EmbeddingProps) {
  return (
    <section id="embedding" aria-label="Inside other sites" className="mt-8 grid scroll-mt-4 gap-3">
      <h2>Inside other sites</h2>
      <SelectField
        label="Who may show your pages inside theirs"
        hint="Where it isn’t allowed, a link stands instead."
        value={front.embed || 'anybody'}
        onChange={({ target: { value } }) =>
          onChange({ ...front, embed: value === 'anybody' ? '' : (value as Front['embed']) })
        }
      >
        <option value="anybody">anybody</option>
        <option value="nobody">nobody</option>
        <option value="sites">these sites</option>
      </SelectField>
      {front.embed === 'sites' && (
        <TextArea
          label="The sites, one in each line"
          rows={3}
          placeholder="https://museum.example"
          hint="Each as its address begins, with a port if it has one; the rest is left out."
          value={(front.sites ?? []).join('\n')}
          problem={problem}
          onChange={(event) => onChange({ ...front, sites: event.target.value.split('\n') })}
        />
      )}
    </section>
  )
}
