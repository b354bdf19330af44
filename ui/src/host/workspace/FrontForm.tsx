import type { Schemas } from '../../api/client'
import { SelectField, TextArea, TextField } from '../../kit/kit'
import { LanguageOptions } from '../../kit/LanguageOptions'
import { say } from '../../say'
import { countries } from './countries'

type Front = Schemas['Front']

/** What its fields are called. */
export const frontWords: Record<keyof Front, string> = {
  description: say.workspace.aboutYou,
  mail: say.workspace.contactMail,
  phone: say.workspace.phone,
  web: say.workspace.webAddress,
  country: say.workspace.countryLocalPhoneNumbers,
  short: say.workspace.shortName,
  clock12: say.workspace.clockPagesMails,
  language: say.workspace.languagePages,
  address: say.workspace.postalAddress,
  unpublished: say.workspace.published,
  hidden: say.workspace.searchEngines,
  cancellation: say.workspace.cancelling,
  privacy: say.workspace.privacyNotice,
  consent: say.workspace.whatClientsHaveAgree,
  embed: say.workspace.insideOtherSites,
  sites: say.workspace.insideOtherSites,
  looks: say.workspace.looksYourPages,
}

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
      <section aria-label={say.workspace.whatClientsRead} className="mt-8 grid gap-3">
        <h2>{say.workspace.whatClientsRead}</h2>
        <TextArea label={say.workspace.aboutYou} rows={3} {...text('description')} />
        <div className="grid grid-cols-2 gap-5">
          <TextField label={say.workspace.contactMail} type="email" {...text('mail')} />
          <TextField label={say.workspace.phone} type="tel" {...text('phone')} />
          <TextField label={say.workspace.webAddress} type="url" {...text('web')} />
          <SelectField
            label={say.workspace.countryLocalPhoneNumbers}
            value={front.country}
            problem={wrong['front.country']}
            onChange={(event) => onChange({ ...front, country: event.target.value })}
          >
            <option value="">{say.workspace.noneClientsGiveCountry}</option>
            {countries().map(([code, name]) => (
              <option key={code} value={code}>
                {name}
              </option>
            ))}
          </SelectField>
          <TextField
            label={say.workspace.shortName}
            placeholder={say.workspace.noShortName}
            hint={say.workspace.whereWholeOneHas}
            {...text('short')}
          />
          <SelectField
            label={say.workspace.clockPagesMails}
            value={front.clock12 ? '12' : '24'}
            onChange={(event) => onChange({ ...front, clock12: event.target.value === '12' })}
          >
            <option value="24">{say.workspace.clock24}</option>
            <option value="12">{say.workspace.clock12}</option>
          </SelectField>
          <SelectField
            label={say.workspace.languagePages}
            hint={say.workspace.whereClientsBrowserAsks}
            value={front.language || 'en'}
            onChange={(event) => onChange({ ...front, language: event.target.value as Front['language'] })}
          >
            <LanguageOptions />
          </SelectField>
        </div>
        <TextArea label={say.workspace.postalAddress} rows={2} {...text('address')} />
        {tick('unpublished', say.workspace.notPublishedYetWorkspaces)}
        {tick('hidden', say.workspace.searchEnginesAskedStay)}
      </section>
      <Embedding front={front} problem={wrong['front.sites']} onChange={onChange} />
      <section aria-label={say.workspace.policies} className="mt-8 grid gap-3">
        <h2>{say.workspace.policies}</h2>
        <TextArea label={say.workspace.cancelling} rows={2} {...text('cancellation')} />
        <TextArea label={say.workspace.privacyNotice} rows={2} {...text('privacy')} />
        <TextField
          label={say.workspace.whatClientsHaveAgree}
          placeholder={say.workspace.nothing}
          hint={say.workspace.sentenceTickKeptEach}
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
    <section id="embedding" aria-label={say.workspace.insideOtherSites} className="mt-8 grid scroll-mt-4 gap-3">
      <h2>{say.workspace.insideOtherSites}</h2>
      <SelectField
        label={say.workspace.whoMayShowYour}
        hint={say.workspace.whereIsntAllowedLink}
        value={front.embed || 'anybody'}
        onChange={({ target: { value } }) =>
          onChange({ ...front, embed: value === 'anybody' ? '' : (value as Front['embed']) })
        }
      >
        <option value="anybody">{say.workspace.anybody}</option>
        <option value="nobody">{say.workspace.nobody}</option>
        <option value="sites">{say.workspace.theseSites}</option>
      </SelectField>
      {front.embed === 'sites' && (
        <TextArea
          label={say.workspace.sitesOneEachLine}
          rows={3}
          placeholder="https://museum.example"
          hint={say.workspace.eachAddressBeginsPort}
          value={(front.sites ?? []).join('\n')}
          problem={problem}
          onChange={(event) => onChange({ ...front, sites: event.target.value.split('\n') })}
        />
      )}
    </section>
  )
}
